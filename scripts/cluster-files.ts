/**
 * What `./start` makes in the folder of its data, and nothing else: so that only that is removed.
 */
export const SETTINGS = 'settings.json';
export const FOLDER_NOTE = 'database-folder';
export const PASSWORD = 'database-password';
export const LOGS = 'logs';
export const CLUSTER = 'postgres';
/** Inside the cluster's own folder. */
export const CLUSTER_PARTS = ['data', 'log', 'logs', 'first-password'] as const;
