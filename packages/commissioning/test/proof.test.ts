import '@yare/books/all';
import { changedSince, itemStanding, openBefore, stageOfItems, type ProofRecord } from '../src';

const proof = (change: Partial<ProofRecord> = {}): ProofRecord => ({
  stage: 'direction',
  item: 'direction',
  outcome: 'passed',
  relied: { 'setting 2h': 0, plate: 3 },
  ...change,
});
const now = (values: Record<string, number | null>) => (name: string) => values[name];

test('a proof holds only as long as everything it relied on is as it was', () => {
  expect(itemStanding(proof(), now({ 'setting 2h': 0, plate: 3 }))).toEqual({ state: 'passed' });
  expect(itemStanding(proof(), now({ 'setting 2h': 1, plate: 3 }))).toEqual({ state: 'stale', changed: ['setting 2h'] });
  expect(itemStanding(proof(), now({ 'setting 2h': 1, plate: 4 }))).toEqual({ state: 'stale', changed: ['setting 2h', 'plate'] });
});

test('what is not known now counts as changed; a null that was null does not', () => {
  expect(changedSince(proof(), now({ plate: 3 }))).toEqual(['setting 2h']);
  expect(changedSince(proof({ relied: { survey: null } }), () => null)).toEqual([]);
});

test('failed stays failed whatever changes, taken back is not yet', () => {
  expect(itemStanding(proof({ outcome: 'failed' }), () => 0)).toEqual({ state: 'failed' });
  expect(itemStanding(proof({ outcome: 'taken back' }), () => 0)).toEqual({ state: 'not yet' });
  expect(itemStanding(undefined, () => 0)).toEqual({ state: 'not yet' });
});

test('a stage is as good as its worst test', () => {
  const passed = { state: 'passed' } as const;
  const stale = { state: 'stale', changed: ['plate'] } as const;
  expect(stageOfItems([passed, passed])).toBe('passed');
  expect(stageOfItems([passed, { state: 'not yet' }])).toBe('not yet');
  expect(stageOfItems([{ state: 'not yet' }, { ...stale, changed: ['plate'] }])).toBe('stale');
  expect(stageOfItems([{ ...stale, changed: [] }, { state: 'failed' }])).toBe('failed');
});

test('the first open test before another is what must be made safe first', () => {
  const items = [
    { id: 'isolated', standing: { state: 'passed' as const } },
    { id: 'motor earth', standing: { state: 'not yet' as const } },
    { id: 'supply', standing: { state: 'not yet' as const } },
  ];
  expect(openBefore(items, 'supply')).toBe('motor earth');
  expect(openBefore(items, 'motor earth')).toBeNull();
});
