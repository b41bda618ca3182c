/** One process of the benchmark: evaluates the fixed network over and over and reports the times. */
import { measureEvaluation } from './evaluate';

process.on('message', (rounds: number) => { process.send?.(measureEvaluation(rounds)); });
