// npm test: everything that must hold, from nothing. Closes on "N passed, N failed". `--only NAME` runs one part.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  buildWeb,
  checkNode,
  compileValidators,
  installDependencies,
  needPackages,
  postgresPackage,
  program,
  root,
  say,
  testPackages,
} from './lib/machine.mjs';
import { removeDatabase, startDatabase } from './lib/database.mjs';

const only = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : null;
checkNode();
needPackages([postgresPackage, ...testPackages]);
installDependencies();
compileValidators();

const total = { passed: 0, failed: 0 };
const wanted = (name) => only === null || only === name;

/** A check that either holds or does not. */
function check(name, command, args) {
  if (!wanted(name)) return;
  say(name);
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit' });
  if (result.status === 0) total.passed += 1;
  else total.failed += 1;
}

/** A runner that writes a JSON report; its own words go to the screen. */
function suite(name, command, args, report, count, env) {
  if (!wanted(name)) return;
  say(name);
  rmSync(report, { force: true });
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } });
  try {
    const { passed, failed } = count(JSON.parse(readFileSync(report, 'utf8')));
    total.passed += passed;
    total.failed += failed;
    if (result.status !== 0 && failed === 0) total.failed += 1;
  } catch (error) {
    console.error(`${name} left no report: ${error.message}`);
    total.failed += 1;
  }
}

const data = join(tmpdir(), `yare-test-${process.pid}`);
mkdirSync(data, { recursive: true });
const database = await startDatabase(data, 'yare_test');
try {
  check('types', program('tsc'), ['-p', 'tsconfig.json', '--noEmit']);
  check('lint', program('eslint'), ['.']);
  check('format', program('prettier'), ['--check', '--log-level', 'warn', '.']);
  const jestReport = join(data, 'jest.json');
  suite(
    'jest',
    program('jest'),
    ['--json', `--outputFile=${jestReport}`, '--silent', '--forceExit'],
    jestReport,
    (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + r.numRuntimeErrorTestSuites }),
    {
      TEST_DATABASE_URL: database.url,
    },
  );
  // short forms of the drills, each on a database of its own
  check('drill:hold', program('tsx'), ['drills/hold.ts', '--rounds', '14']);
  check('drill:kill', program('tsx'), ['drills/kill.ts', '--rounds', '3']);
  check('drill:fuzz', program('tsx'), ['drills/fuzz.ts', '--requests', '600']);
  if (wanted('size') || wanted('e2e')) buildWeb();
  check('size', process.execPath, ['scripts/size.mjs']);
  const e2eReport = join(data, 'e2e.json');
  suite(
    'e2e',
    program('playwright'),
    ['test', '--config', 'e2e/playwright.config.ts'],
    e2eReport,
    (r) => ({ passed: r.stats.expected + r.stats.flaky, failed: r.stats.unexpected }),
    {
      TEST_DATABASE_URL: database.url,
      PLAYWRIGHT_JSON_OUTPUT_NAME: e2eReport,
      PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD: '1',
    },
  );
} finally {
  database.stop();
  removeDatabase(data);
  rmSync(data, { recursive: true, force: true });
}
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed === 0 && total.passed > 0 ? 0 : 1);
