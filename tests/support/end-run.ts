import { endRun } from './run-clusters';

export default endRun;
