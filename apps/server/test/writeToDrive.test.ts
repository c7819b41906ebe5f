import '@yare/books/all';
import { bookById, settingsOf, type Setting } from '@yare/books';
import { present } from '@yare/core';
import { DriveRefusal, LinkDown, type DriveLink } from '../src/link/driveLink';
import { writeToDrive } from '../src/write/writeToDrive';

const settings = settingsOf(bookById('osier-g'), 'G7.5');
const setting = (code: string): Setting => present(settings.find((s) => s.code === code));
const asked = [
  { setting: setting('3a'), value: 5 },
  { setting: setting('3b'), value: 8 },
  { setting: setting('4d'), value: 20.04 },
];

/** A drive that does as its script says; it only stands for the link's few calls. */
function scripted(script: { failAt?: number; refuse?: string; holds?: Record<string, number>; keeps?: boolean; backFails?: boolean }) {
  const memory: Record<string, number> = { '3a': 10, '3b': 10, '4d': 25.5 };
  const calls: string[] = [];
  let writes = 0;
  const link = {
    book: bookById('osier-g'),
    readSetting: async (s: Setting) =>
      script.holds?.[s.code] !== undefined && calls.includes(`write ${s.code}`) ? present(script.holds[s.code]) : present(memory[s.code]),
    writeSetting: async (s: Setting, value: number) => {
      if (script.failAt !== undefined && ++writes >= script.failAt) throw new LinkDown('gone');
      if (script.refuse === s.code && value !== 25.5) throw new DriveRefusal(3);
      if (script.backFails && calls.includes(`write ${s.code}`)) throw new LinkDown('gone');
      calls.push(`write ${s.code}`);
      memory[s.code] = value;
    },
    refusalSentence: async () => 'the value contradicts another setting',
    keep: async () => {
      calls.push('keep');
      return script.keeps ?? true;
    },
  };
  return { link: link as unknown as DriveLink, memory, calls };
}

const results = (r: { lines: Array<{ result: string }> }) => r.lines.map((l) => l.result);

test('all go in, are read back and kept; what is stored is on the drive’s step', async () => {
  const { link, memory, calls } = scripted({});
  const r = await writeToDrive(link, asked);
  expect(r.outcome).toBe('kept');
  expect(results(r)).toEqual(['verified', 'verified', 'verified']);
  expect(memory['4d']).toBe(20);
  expect(calls.at(-1)).toBe('keep');
});

test('a refusal puts everything back, and nothing is kept', async () => {
  const { link, memory, calls } = scripted({ refuse: '4d' });
  const r = await writeToDrive(link, asked);
  expect(r.outcome).toBe('refused');
  expect(r.sentence).toBe('The drive refused Current limit 4d: 20 A; the value contradicts another setting. Draft and drive are as they were.');
  expect(results(r)).toEqual(['put back', 'put back', 'refused']);
  expect(memory).toEqual({ '3a': 10, '3b': 10, '4d': 25.5 });
  expect(calls).not.toContain('keep');
});

test('a drive that takes a value but holds another is a refusal too', async () => {
  const { link } = scripted({ holds: { '3b': 9.9 } });
  const r = await writeToDrive(link, asked);
  expect(r.outcome).toBe('refused');
  expect(r.sentence).toContain('it holds 9.9 s instead');
});

test('a link lost in the middle leaves a clear account', async () => {
  const { link } = scripted({ failAt: 3 });
  const r = await writeToDrive(link, asked);
  expect(r.outcome).toBe('link lost');
  expect(r.sentence).toBe(
    'The link was lost. 2 of 3 values were written and verified, none kept yet. The draft is as it was; when the drive answers again, go on with the rest.',
  );
  expect(results(r)).toEqual(['verified', 'verified', 'not reached']);
});

test('values that cannot be put back are said to be unknown', async () => {
  const { link } = scripted({ refuse: '4d', backFails: true });
  const r = await writeToDrive(link, asked);
  expect(results(r)).toEqual(['unknown', 'unknown', 'refused']);
  expect(r.sentence).toContain('Not every value could be put back: read the drive before you go on.');
});

test('a drive that does not keep is not called done', async () => {
  const r = await writeToDrive(scripted({ keeps: false }).link, asked);
  expect(r.outcome).toBe('not kept');
  expect(r.sentence).toContain('gone at power-off');
});
