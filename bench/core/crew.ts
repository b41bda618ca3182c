import { fork } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import path from 'node:path';
import { BAKE_SIZE, BENCH_POINTS, ROWS, STRIP_ROWS, median } from './evaluate';
import type { Order } from './evaluate-process';

/** Processes of the benchmark, one for each processor. */
export class Crew {
  private constructor(private readonly workers: readonly ChildProcess[]) {}

  static async gather(size: number): Promise<Crew> {
    const workers = Array.from({ length: size }, () =>
      fork(path.resolve(import.meta.dirname, 'evaluate-process.ts'), {
        execArgv: ['--import', 'tsx'],
      }),
    );
    await Promise.all(
      workers.map(
        (worker) =>
          new Promise((resolve) => {
            worker.once('message', resolve);
          }),
      ),
    );
    return new Crew(workers);
  }

  dismiss(): void {
    for (const worker of this.workers) worker.kill();
  }

  private ask(worker: ChildProcess, order: Order): Promise<number> {
    return new Promise((resolve, reject) => {
      worker.once('error', reject);
      worker.once('message', (answer: number) => {
        worker.off('error', reject);
        resolve(answer);
      });
      worker.send(order);
    });
  }

  private get first(): ChildProcess {
    return this.workers[0] as ChildProcess;
  }

  /**
   * Points per second of one process alone and of all together, in turn, and their ratio; medians.
   */
  async measureScaling(rounds: number): Promise<{ one: number; all: number; ratio: number }> {
    const times = 8;
    const rate = (milliseconds: number): number => ((BENCH_POINTS * times) / milliseconds) * 1000;
    const pairs: { one: number; all: number }[] = [];
    for (let k = 0; k < rounds; k++) {
      const one = rate(await this.ask(this.first, { task: 'evaluate', times }));
      const all = (
        await Promise.all(
          this.workers.map((worker) => this.ask(worker, { task: 'evaluate', times })),
        )
      ).reduce((sum, each) => sum + rate(each), 0);
      pairs.push({ one, all });
    }
    return {
      one: median(pairs.map((pair) => pair.one)),
      all: median(pairs.map((pair) => pair.all)),
      ratio: median(pairs.map((pair) => pair.all / pair.one)),
    };
  }

  /** How many times the rays of one process all of them cast together; median. */
  async measureRayScaling(rounds: number): Promise<number> {
    await Promise.all(this.workers.map((worker) => this.ask(worker, { task: 'rays' })));
    const ratios: number[] = [];
    for (let k = 0; k < rounds; k++) {
      const alone = await this.ask(this.first, { task: 'rays' });
      const together = await Promise.all(
        this.workers.map((worker) => this.ask(worker, { task: 'rays' })),
      );
      ratios.push(together.reduce((sum, each) => sum + alone / each, 0));
    }
    return median(ratios);
  }

  /**
   * Milliseconds until the processes have done all orders, each taking the next when it is free.
   */
  private async share(orders: readonly Order[]): Promise<number> {
    let next = 0;
    const labour = async (worker: ChildProcess): Promise<void> => {
      for (let k = next++; k < orders.length; k = next++)
        await this.ask(worker, orders[k] as Order);
    };
    const began = performance.now();
    await Promise.all(this.workers.map(labour));
    return performance.now() - began;
  }

  /**
   * Milliseconds of a whole bake without writing: at points that are ready, or finding them first.
   */
  bake(task: 'strip' | 'points'): Promise<number> {
    return this.share(
      Array.from({ length: BAKE_SIZE / STRIP_ROWS }, (_, k) => ({ task, row: k * STRIP_ROWS })),
    );
  }

  /** Milliseconds of a whole bake with points found and every map's rows written as 16-bit PNG. */
  write(): Promise<number> {
    return this.share(ROWS.map((_, strip) => ({ task: 'pack', strip })));
  }

  /** Texels a bake covers. */
  texels(): Promise<number> {
    return this.ask(this.first, { task: 'texels' });
  }
}
