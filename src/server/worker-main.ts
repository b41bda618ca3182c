/**
 * A worker process: takes jobs from the database until it is told to stop. Start more of them for
 * more speed.
 */
import { closeDatabase } from '@/db/client';
import { log, loggable, sendConsoleToLog } from './log';
import { Supervisor } from './worker/supervisor';

process.env['BRIGHT_LOOM_PART'] ??= 'worker';
sendConsoleToLog();
process.on('unhandledRejection', (error) => {
  log().error(loggable(error), 'an error that nobody handled');
});
const supervisor = new Supervisor();
await supervisor.start();
log().info({ worker: supervisor.id }, 'worker ready');
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    void supervisor
      .stop()
      .then(closeDatabase)
      .finally(() => process.exit(0));
  });
}
