import { defineConfig } from '@playwright/test';
import { availableParallelism } from 'node:os';
import { chromiumLaunch } from '../scripts/lib/chromium.mjs';

const phone = { viewport: { width: 390, height: 844 }, hasTouch: true, colorScheme: 'light' } as const;

/**
 * The real interface against the real server, database and bench: each worker with a stack of its own. A test waits for its motor most of the
 * time, so three of them keep two cores busy, and two of them one. What can still come is waited for: a wait ends with
 * its event, and its limit is there to end a test whose event will never come.
 */
export default defineConfig({
  testDir: '.',
  workers: availableParallelism() > 1 ? 3 : 2,
  // motors run in real time: on a machine that stutters another try or two tell a slow second from a fault
  retries: process.env.CI ? 2 : 0,
  timeout: 20 * 60_000,
  expect: { timeout: 240_000 },
  reporter: [['list'], ['json']],
  outputDir: '../test-results',
  use: { browserName: 'chromium', actionTimeout: 240_000, launchOptions: chromiumLaunch, trace: 'off' },
  // the longest first, so that no worker is left alone with it at the end
  projects: [
    // leaves machines proved, locked and rewired behind, and puts one more on record
    { name: 'commissioning', testMatch: /(commissioning|machines)\.spec\.ts/, use: phone },
    // wires panels anew, and so has a stack of its own
    { name: 'command', testMatch: /(command|process)\.spec\.ts/, use: phone },
    // works the plant side, and so has a stack of its own
    { name: 'bench', testMatch: /bench\.spec\.ts/, use: phone },
    // two that last
    { name: 'walk', testMatch: /(walk|twice)\.spec\.ts/, use: phone },
    { name: 'phone', testIgnore: /(wide|bench|command|process|commissioning|machines|walk|twice)\.spec\.ts/, use: phone },
    { name: 'wide', testMatch: /wide\.spec\.ts/, use: { viewport: { width: 1280, height: 800 }, colorScheme: 'dark' } },
  ],
});
