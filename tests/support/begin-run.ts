import { beginRun } from './run-clusters';

export default beginRun;
