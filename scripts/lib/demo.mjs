// The whole product on a database of its own with a fresh demo plant, and a browser beside it.
import { mkdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildWeb, installDependencies, needPackages, postgresPackage, root, testPackages, webFolder } from './machine.mjs';
import { freePort, removeDatabase, startDatabase } from './database.mjs';
import { chromiumLaunch } from './chromium.mjs';

/** Starts everything; `stop` ends it and leaves nothing behind. @param history with what lies behind the plant when somebody first sees it */
export async function startDemo(name, { history = false } = {}) {
  needPackages([postgresPackage, ...testPackages]);
  installDependencies();
  buildWeb();
  // packages are there only now
  const { chromium } = await import('@playwright/test');
  const { startBench, startServer } = await import('./processes.mjs');
  const { atTheServer } = await import('./terminal.mjs');
  const data = join(tmpdir(), `yare-${name}-${process.pid}`);
  mkdirSync(data, { recursive: true });
  const database = await startDatabase(data, `yare_${name}`);
  const plantPort = await freePort();
  const bench = startBench({ plantPort, logFile: join(data, 'bench.log') });
  const benchPort = await bench.ready;
  const behind = history ? ['--history', join(root, 'packages/demo-plant/history.json')] : [];
  const serve = (more = []) =>
    startServer({
      more: [...behind, ...more],
      database: database.url,
      bench: `127.0.0.1:${benchPort}`,
      plant: `127.0.0.1:${plantPort}`,
      staticFolder: webFolder,
      logFile: join(data, 'server.log'),
    });
  let server = serve();
  const url = `http://127.0.0.1:${await server.ready}`;
  const browser = await chromium.launch(chromiumLaunch);
  return {
    url,
    /** a page of somebody who has given a name before */
    async page({ wide = false, night = false } = {}) {
      const context = await browser.newContext({
        viewport: wide ? { width: 1280, height: 800 } : { width: 390, height: 844 },
        colorScheme: night ? 'dark' : 'light',
        hasTouch: !wide,
        ignoreHTTPSErrors: true,
      });
      await context.addInitScript(() =>
        localStorage.setItem('yare.device', JSON.stringify({ state: { author: 'Ines Calder', theme: 'device' }, version: 0 })),
      );
      return context.newPage();
    },
    /** The server anew, as it is beyond its own computer, with a pairing code. */
    async beyondLoopback() {
      await server.stop();
      server = serve(['--pair-all', '--data', data]);
      const port = await server.ready;
      return { url: `https://127.0.0.1:${port}`, code: atTheServer(database.url, ['pair']).code };
    },
    async stop() {
      await browser.close();
      await server.stop();
      await bench.stop();
      database.stop();
      removeDatabase(data);
      rmSync(data, { recursive: true, force: true });
    },
  };
}
