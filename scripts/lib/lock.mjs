// One start from a folder at a time: a lock file made in one step, holding who made it.
import { existsSync, linkSync, readFileSync, renameSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';

/** When a process began, in the kernel's ticks since boot: a process number that was given again has another. */
export function startTimeOf(pid) {
  try {
    // the name in brackets may hold anything; what follows it is counted from field 3 (proc(5))
    return (
      readFileSync(`/proc/${pid}/stat`, 'utf8')
        .replace(/^.*\) /s, '')
        .split(' ')[19] ?? null
    );
  } catch {
    return null;
  }
}

function read(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
}

/** Whether who made a lock still runs from this very folder. */
const alive = (holder, folder) =>
  holder !== null && holder.folder === folder && holder.started !== null && startTimeOf(holder.pid) === holder.started;

/** The start that is alive in a folder; null when there is none. */
export function holderOf(file, folder) {
  const holder = read(file);
  return alive(holder, folder) ? holder : null;
}

/**
 * Takes the lock of a folder. A lock whose maker is gone is put away.
 * @returns {{ other: object } | { release: () => void, tell: (more: object) => void }} `other` is who holds it
 */
export function takeLock(file, folder) {
  const own = { pid: process.pid, started: startTimeOf(process.pid), folder };
  const mine = `${file}.${process.pid}`;
  writeFileSync(mine, JSON.stringify(own));
  try {
    for (let tries = 0; tries < 20; tries++) {
      try {
        // a link is made whole or not at all, and never over another
        linkSync(mine, file);
        return {
          tell(more) {
            // in place of the old one in one step, so that nobody reads half of it
            writeFileSync(`${mine}.new`, JSON.stringify({ ...own, ...more }));
            renameSync(`${mine}.new`, file);
          },
          release() {
            if (read(file)?.pid === process.pid) rmSync(file, { force: true });
          },
        };
      } catch (error) {
        if (error.code !== 'EEXIST') throw error;
      }
      const holder = read(file);
      if (alive(holder, folder)) return { other: holder };
      putAway(file, holder);
    }
    return { other: read(file) ?? { pid: 0 } };
  } finally {
    rmSync(mine, { force: true });
  }
}

/** Removes a lock as it was read; one that another start made meanwhile is put back. */
function putAway(file, seen) {
  const aside = `${file}.old-${process.pid}`;
  try {
    renameSync(file, aside);
  } catch {
    return;
  }
  if (JSON.stringify(read(aside)) !== JSON.stringify(seen) && !existsSync(file)) {
    try {
      linkSync(aside, file);
    } catch {
      // somebody made a new one in this very moment: theirs counts
    }
  }
  unlinkSync(aside);
}
