import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { removeCluster, startCluster } from '../../scripts/cluster';
import { BackOff, keepRunning, waitBefore } from '../../scripts/keep-running';
import { readSettings } from '../../scripts/start-settings';

const folders: string[] = [];
const newFolder = (): string => {
  const folder = mkdtempSync(path.join(tmpdir(), 'bright-loom-scripts-'));
  folders.push(folder);
  return folder;
};
afterAll(() => {
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});
const quiet = (): void => undefined;
const start = (folder: string) => startCluster({ folder, throwAway: true, say: quiet });
const settingsIn = (folder: string, given: Record<string, string> = {}) =>
  readSettings(folder, { NODE_ENV: 'test', ...given });
async function answers(url: string): Promise<boolean> {
  const client = new Client({ connectionString: url });
  try {
    await client.connect();
    await client.query('select 1');
    return true;
  } catch {
    return false;
  } finally {
    await client.end().catch(quiet);
  }
}

describe('a program that ends', () => {
  it(
    'is started again, after waits that grow while it keeps ending and are short again ' +
      'after a sound run',
    async () => {
      expect([1, 2, 3, 20].map(waitBefore)).toEqual([500, 1000, 2000, 30000]);
      const backOff = new BackOff();
      expect([0, 10, 10, 120_000, 10].map((lasted) => backOff.next(lasted))).toEqual([
        500, 1000, 2000, 500, 1000,
      ]);
      const folder = newFolder();
      const noted = path.join(folder, 'starts');
      const said: string[] = [];
      const kept = keepRunning({
        name: 'brief',
        args: ['-e', `require('fs').appendFileSync(${JSON.stringify(noted)}, 'x')`],
        env: process.env,
        folder,
        logs: folder,
        say: (text) => said.push(text),
      });
      for (
        let k = 0;
        k < 100 && (!existsSync(noted) || readFileSync(noted, 'utf8').length < 2);
        k++
      )
        await new Promise((resolve) => setTimeout(resolve, 50));
      await kept.stop();
      expect(readFileSync(noted, 'utf8').length).toBeGreaterThanOrEqual(2);
      expect(said[0]).toBe('the brief ended (code 0); it is started again in 0.5 s');
    },
  );
});

describe('our own PostgreSQL', () => {
  it(
    'is found dead when it was killed, and started again on its port, whoever has its old ' +
      'number by then',
    async () => {
      const folder = newFolder();
      const cluster = await start(folder);
      expect([cluster.isRunning(), await answers(cluster.url)]).toEqual([true, true]);
      const lock = path.join(cluster.folder, 'data/postmaster.pid');
      const [pid, ...rest] = readFileSync(lock, 'utf8').split('\n');
      process.kill(Number(pid), 'SIGKILL');
      for (let k = 0; k < 60 && cluster.isRunning(); k++)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect(cluster.isRunning()).toBe(false);
      // A foreign process now has the number that the lock names.
      const foreign = spawn('sleep', ['60']);
      writeFileSync(lock, [String(foreign.pid), ...rest].join('\n'));
      expect(cluster.isRunning()).toBe(false);
      await cluster.restart();
      foreign.kill();
      expect([cluster.isRunning(), await answers(cluster.url)]).toEqual([true, true]);
      cluster.stop();
    },
    60000,
  );

  it('is removed with what it made, and nothing else in the folder', async () => {
    const folder = newFolder();
    const cluster = await start(folder);
    cluster.stop();
    await settingsIn(folder);
    mkdirSync(path.join(folder, 'holiday'));
    writeFileSync(path.join(folder, 'holiday/pictures.txt'), 'mine');
    removeCluster(folder);
    expect(readFileSync(path.join(folder, 'holiday/pictures.txt'), 'utf8')).toBe('mine');
    expect([
      existsSync(path.join(folder, 'settings.json')),
      existsSync(path.join(cluster.folder, 'data')),
    ]).toEqual([false, false]);
    const empty = newFolder();
    await settingsIn(empty);
    removeCluster(empty);
    expect(existsSync(empty)).toBe(false);
  }, 60000);
});

describe('settings', () => {
  it('keep what must stay the same, and say what is wrong', async () => {
    const folder = newFolder();
    const first = await settingsIn(folder, {
      PORT: '4999',
      PUBLIC_URL: 'https://loom.studio.example/',
    });
    expect(first).toMatchObject({
      port: 4999,
      host: '127.0.0.1',
      publicUrl: 'https://loom.studio.example',
    });
    expect((await settingsIn(folder, { PORT: '4999' })).secret).toBe(first.secret);
    await expect(settingsIn(folder, { PORT: '99999' })).rejects.toThrow(
      /PORT is “99999”; it must be a port/,
    );
    await expect(settingsIn(folder, { PUBLIC_URL: 'loom.studio.example/path' })).rejects.toThrow(
      /PUBLIC_URL/,
    );
  });
});
