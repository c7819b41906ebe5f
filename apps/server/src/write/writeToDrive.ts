import { storedValue, type Setting } from '@yare/books';
import { present } from '@yare/core';
import type { WriteLine, WriteReport } from '@yare/contract';
import { DriveRefusal, LinkDown, type DriveLink } from '../link/driveLink';

/** What a write came to, before it is stored. */
export type WriteResult = Pick<WriteReport, 'outcome' | 'sentence' | 'lines'>;

const figure = (s: Setting, v: number): string => s.options?.find((o) => o.value === v)?.label ?? `${v}${s.unit ? ` ${s.unit}` : ''}`;

/** What a write may be told and asked while it goes on. */
export interface WriteWatch {
  /** after each line that came to something */
  progress?: (lines: readonly WriteLine[]) => Promise<void>;
  /** somebody wants it stopped: what was written is put back */
  stopped?: () => boolean;
  /** the lines of a write that broke off: what the drive still holds of them counts as written */
  resumes?: readonly WriteLine[];
  /** what to say of a drive that does not understand its own settings */
  anotherDrive?: (refusal: DriveRefusal) => string;
}

/** Figures of the drive's own, read before anything is written. */
async function linesFor(
  link: DriveLink,
  asked: ReadonlyArray<{ setting: Setting; value: number }>,
  resumes: readonly WriteLine[] = [],
): Promise<WriteLine[]> {
  const lines: WriteLine[] = [];
  for (const { setting, value } of asked) {
    const now = await link.readSetting(setting);
    const known = resumes.find((l) => l.code === setting.code);
    const stored = storedValue(setting, value);
    const there = known !== undefined && now === stored;
    const before = known?.before ?? now;
    lines.push({
      code: setting.code,
      name: setting.name,
      unit: setting.unit,
      before,
      asked: value,
      stored,
      readBack: there ? now : null,
      result: there ? 'verified' : 'not reached',
    });
  }
  return lines;
}

/** Puts back what was written, newest first; true when every value was read back as it had been. */
async function putBack(link: DriveLink, written: Array<{ setting: Setting; line: WriteLine }>): Promise<boolean> {
  let all = true;
  for (const { setting, line } of [...written].reverse()) {
    try {
      await link.writeSetting(setting, line.before);
      line.readBack = await link.readSetting(setting);
      line.result = 'put back';
      if (line.readBack !== line.before) all = false;
    } catch {
      line.result = 'unknown';
      all = false;
    }
  }
  return all;
}

/**
 * Writes values to a drive, reads each one back, then keeps them through power-off. A setting that contradicts one still to come
 * is tried again after the others. When the drive refuses a value, what was already written is put back, so that draft and drive
 * stand as they were; when the link is lost in the middle, the lines tell what had been written.
 */
export async function writeToDrive(
  link: DriveLink,
  asked: ReadonlyArray<{ setting: Setting; value: number }>,
  { progress = async () => undefined, stopped = () => false, resumes, anotherDrive = () => 'It does not know this setting.' }: WriteWatch = {},
): Promise<WriteResult> {
  let lines: WriteLine[];
  try {
    lines = await linesFor(link, asked, resumes);
    await progress(lines);
  } catch (error) {
    if (error instanceof DriveRefusal) return { outcome: 'refused', sentence: `${anotherDrive(error)} Nothing was written.`, lines: [] };
    if (!(error instanceof LinkDown)) throw error;
    return {
      outcome: 'link lost',
      sentence:
        'The drive does not answer. Nothing was written; draft and drive are as they were. Check that it has power and that the link is plugged in, then write again.',
      lines: [],
    };
  }
  const all = asked.map(({ setting }, i) => ({ setting, line: present(lines[i]) }));
  const written = all.filter(({ line }) => line.result === 'verified');
  try {
    let waiting = all.filter(({ line }) => line.result !== 'verified');
    while (waiting.length > 0) {
      const again: typeof waiting = [];
      for (const item of waiting) {
        if (stopped()) return await stoppedByHand(link, lines, written);
        try {
          await link.writeSetting(item.setting, item.line.stored);
        } catch (error) {
          if (!(error instanceof DriveRefusal)) throw error;
          item.line.sentence = await link.refusalSentence();
          again.push(item);
          continue;
        }
        written.push(item);
        delete item.line.sentence;
        item.line.readBack = await link.readSetting(item.setting);
        item.line.result = item.line.readBack === item.line.stored ? 'verified' : 'refused';
        if (item.line.result === 'refused')
          return await refused(link, lines, written, item, `it holds ${figure(item.setting, item.line.readBack)} instead`);
        await progress(lines);
      }
      if (again.length === waiting.length)
        return await refused(link, lines, written, present(again[0]), present(again[0]).line.sentence ?? 'it gives no reason');
      waiting = again;
    }
    if (!(await link.keep())) {
      return {
        outcome: 'not kept',
        sentence: 'All values were written and verified, but the drive did not keep them: they are gone at power-off. Write again to keep them.',
        lines,
      };
    }
  } catch (error) {
    // a drive that refuses to be read back in the middle says no more than one that is silent
    if (!(error instanceof LinkDown || error instanceof DriveRefusal)) throw error;
    for (const { line } of written) if (line.result !== 'verified') line.result = 'unknown';
    const sure = lines.filter((l) => l.result === 'verified').length;
    return {
      outcome: 'link lost',
      sentence: `The link was lost. ${sure} of ${lines.length} values were written and verified, none kept yet. The draft is as it was; when the drive answers again, go on with the rest.`,
      lines,
    };
  }
  return {
    outcome: 'kept',
    sentence: `${lines.length} ${lines.length === 1 ? 'value' : 'values'} written, read back and kept through power-off.`,
    lines,
  };
}

async function stoppedByHand(link: DriveLink, lines: WriteLine[], written: Array<{ setting: Setting; line: WriteLine }>): Promise<WriteResult> {
  const whole = await putBack(link, written);
  return {
    outcome: 'stopped',
    sentence: `The write was stopped. ${whole ? 'What was written is put back: draft and drive are as they were.' : 'Not every value could be put back: read the drive before you go on.'}`,
    lines,
  };
}

async function refused(
  link: DriveLink,
  lines: WriteLine[],
  written: Array<{ setting: Setting; line: WriteLine }>,
  item: { setting: Setting; line: WriteLine },
  why: string,
): Promise<WriteResult> {
  const whole = await putBack(link, written);
  item.line.result = 'refused';
  item.line.sentence = why;
  const end = whole ? 'Draft and drive are as they were.' : 'Not every value could be put back: read the drive before you go on.';
  return {
    outcome: 'refused',
    sentence: `The drive refused ${item.setting.name} ${item.setting.code}: ${figure(item.setting, item.line.stored)}; ${why}. ${end}`,
    lines,
  };
}
