// npm test: everything that must hold, from nothing. Closes on "N passed, N failed". `--only NAME` runs one part;
// `--changed` runs types, and rules and unit tests of what is not committed yet, for daily work.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism, constants, setPriority, tmpdir } from 'node:os';
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
const changed = process.argv.includes('--changed');
checkNode();
needPackages([postgresPackage, ...testPackages]);
installDependencies();
compileValidators();

const total = { passed: 0, failed: 0 };
const wanted = (name) => only === null || only === name;

/** A check that either holds or does not; one that can wait leaves the machine to others that run beside it. */
function check(name, command, args, canWait = false) {
  if (!wanted(name)) return Promise.resolve();
  say(name);
  return new Promise((resolve) => {
    const run = spawn(command, args, { cwd: root, stdio: 'inherit' });
    if (canWait && run.pid) setPriority(run.pid, constants.priority.PRIORITY_BELOW_NORMAL);
    run.once('close', (status) => {
      if (status === 0) total.passed += 1;
      else {
        total.failed += 1;
        console.error(`${name} failed`);
      }
      resolve();
    });
  });
}

/** Files changed since the last commit, new ones among them, that are still there. */
function changedFiles() {
  const listed = ['diff --name-only HEAD', 'ls-files --others --exclude-standard'].flatMap((args) =>
    spawnSync('git', args.split(' '), { cwd: root, encoding: 'utf8' }).stdout.split('\n'),
  );
  return listed.filter((file) => file && existsSync(join(root, file)));
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

/** The foot of every page a test failed on, as a reader hears it: what stood there tells a slow machine from a fault. */
function showPages() {
  const results = join(root, 'test-results');
  const failed = existsSync(results) ? readdirSync(results, { recursive: true }).filter((file) => file.endsWith('error-context.md')) : [];
  for (const file of failed) {
    const [, page] = /# Page snapshot\s+```yaml\n([\s\S]*?)```/.exec(readFileSync(join(results, file), 'utf8')) ?? [];
    if (page) console.log(`\n${file}\n${page.trimEnd().split('\n').slice(-30).join('\n')}`);
  }
}

const data = join(tmpdir(), `yare-test-${process.pid}`);
mkdirSync(data, { recursive: true });
const database = await startDatabase(data, 'yare_test');
try {
  const files = changed ? changedFiles() : ['.'];
  const code = files.filter((file) => changed === false || /\.(ts|tsx|mjs|js)$/.test(file));
  // short forms of the drills, each on a database of its own; the timed one waits for motors most of its time
  const timed = changed ? null : check('drill:hold', program('tsx'), ['drills/hold.ts', '--rounds', '14']);
  const incremental = ['--incremental', '--tsBuildInfoFile', 'node_modules/.cache/types.tsbuildinfo'];
  // rules and format of a file hang on its own text: what has not changed is not read again
  const kept = (name) => ['--cache', '--cache-strategy', 'content', '--cache-location', `node_modules/.cache/${name}`];
  const types = check('types', program('tsc'), ['-p', 'tsconfig.json', '--noEmit', ...incremental], true);
  if (code.length > 0) await check('lint', program('eslint'), [...kept('lint'), ...code], true);
  if (files.length > 0)
    await check('format', program('prettier'), ['--check', '--ignore-unknown', '--log-level', 'warn', ...kept('format'), ...files], true);
  await types;
  await timed;
  // the server's tests wait most of the time: a third worker fills what they leave
  const jestReport = join(data, 'jest.json');
  suite(
    'jest',
    program('jest'),
    [
      '--json',
      `--outputFile=${jestReport}`,
      '--silent',
      '--forceExit',
      `--maxWorkers=${availableParallelism() > 1 ? 3 : 1}`,
      ...(changed ? ['--onlyChanged', '--passWithNoTests'] : []),
    ],
    jestReport,
    (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests + r.numRuntimeErrorTestSuites }),
    {
      TEST_DATABASE_URL: database.url,
    },
  );
  if (!changed) {
    await Promise.all([
      check('drill:kill', program('tsx'), ['drills/kill.ts', '--rounds', '3']),
      check('drill:fuzz', program('tsx'), ['drills/fuzz.ts', '--requests', '600']),
    ]);
    await check('drill:stall', program('tsx'), ['drills/stall.ts', '--short']);
    if (wanted('size') || wanted('e2e')) buildWeb();
    await check('size', process.execPath, ['scripts/size.mjs']);
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
        // the stages are read from the package that defines them, books and all
        NODE_OPTIONS: '--import tsx',
      },
    );
    if (wanted('e2e')) showPages();
  }
} finally {
  database.stop();
  removeDatabase(data);
  rmSync(data, { recursive: true, force: true });
}
console.log(`\n${total.passed} passed, ${total.failed} failed`);
process.exit(total.failed === 0 && total.passed > 0 ? 0 : 1);
