/** One thread of the benchmark: evaluates the fixed network over and over and reports points per second. */
import { parentPort } from 'node:worker_threads';
import { measureEvaluation } from './evaluate';

parentPort?.on('message', (rounds: number) => { parentPort?.postMessage(measureEvaluation(rounds)); });
