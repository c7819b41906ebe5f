import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startBench } from '../../bench/src/bench';
import { DatabaseWatch } from '../src/db/watch';
import { program, root } from './program';
import { freshDatabase, until } from './stack';

describe('starting', () => {
  const folder = () => mkdtempSync(join(tmpdir(), 'yare-start-'));

  test('of many starts in the same moment one gets the folder; a lock whose maker is gone keeps nobody out', async () => {
    const dir = folder();
    const file = join(dir, 'running.json');
    const take = `import { takeLock } from '${root}/scripts/lib/lock.mjs'; const l = takeLock('${file}', '${dir}'); console.log(l.other ? 'other' : 'mine'); setInterval(() => {}, 1000); process.stdin.on('end', () => process.exit()).resume();`;
    const race = async () => {
      const said: string[] = [];
      const children = Array.from({ length: 6 }, () =>
        spawn(process.execPath, ['--input-type=module', '-e', take], { stdio: ['pipe', 'pipe', 'inherit'] }),
      );
      for (const c of children) c.stdout.on('data', (x) => said.push(String(x).trim()));
      await until(() => said.length === 6);
      for (const c of children) c.stdin.end();
      await Promise.all(children.map((c) => new Promise((done) => c.once('exit', done))));
      return said.filter((s) => s === 'mine').length;
    };
    expect(await race()).toBe(1);
    // killed, it left its lock; another process has its number now
    expect(existsSync(file)).toBe(true);
    writeFileSync(file, JSON.stringify({ pid: process.pid, started: '1', folder: dir }));
    expect(await race()).toBe(1);
    writeFileSync(file, '{"pid":');
    expect(await race()).toBe(1);
    rmSync(dir, { recursive: true });
  });

  test('two servers never work on one database', async () => {
    const { url, drop } = await freshDatabase();
    const first = await DatabaseWatch.begin(url, 0);
    await expect(DatabaseWatch.begin(url, 0)).rejects.toThrow('Another Yare Pilot server runs on this database');
    await first.stop();
    await (await DatabaseWatch.begin(url, 0)).stop();
    await drop();
  });

  test('an option nobody knows is told in a sentence', async () => {
    const { code, stderr } = await program(process.execPath, ['scripts/start.mjs', '--hots', '0.0.0.0']);
    expect(code).toBe(1);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain("Unknown option '--hots'. npm start knows --host");
  });

  test('a lost password file is told in a sentence with the ways out', async () => {
    const dir = folder();
    mkdirSync(join(dir, 'postgres'));
    writeFileSync(join(dir, 'postgres', 'PG_VERSION'), '15');
    const start = `import { startDatabase } from '${root}/scripts/lib/database.mjs'; await startDatabase('${dir}');`;
    const { code, stderr } = await program(process.execPath, ['--input-type=module', '-e', start]);
    expect(code).toBe(1);
    expect(stderr.trim().split('\n')).toHaveLength(1);
    expect(stderr).toContain('database-password, is not. Put the file back');
    rmSync(dir, { recursive: true });
  });

  test('a damaged memory of the bench is said and kept aside', async () => {
    const dir = folder();
    const stateFile = join(dir, 'bench.json');
    for (const damaged of ['{"P-11":{"values":{"3a":', '"words"', '{"P-11":{"hours":"many"}}']) {
      writeFileSync(stateFile, damaged);
      const said: string[] = [];
      const bench = await startBench({ host: '127.0.0.1', port: 0, seed: 5, stateFile, warn: (s) => said.push(s) });
      await bench.stop();
      expect(said).toEqual([expect.stringContaining('is damaged')]);
    }
    expect(readdirSync(dir).filter((f) => f.includes('damaged')).length).toBeGreaterThan(0);
    rmSync(dir, { recursive: true });
  });
});
