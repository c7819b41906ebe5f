import { spawn } from 'node:child_process';
import { join } from 'node:path';

export const root = join(__dirname, '../../..');

/** A program of the repository run to its end: how it ended and what it said. */
export function program(
  command: string,
  args: string[],
  env: Record<string, string> = {},
): Promise<{ code: number | null; stdout: string; stderr: string }> {
  return new Promise((done) => {
    const child = spawn(command, args, { cwd: root, env: { ...process.env, ...env } });
    let [stdout, stderr] = ['', ''];
    child.stdout.on('data', (x) => (stdout += x));
    child.stderr.on('data', (x) => (stderr += x));
    child.on('close', (code) => done({ code, stdout, stderr }));
  });
}
