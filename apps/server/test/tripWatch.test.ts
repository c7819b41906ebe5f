import type { LiveSample } from '@yare/contract';
import { Ring } from '../src/trips/ring';
import { patiently, tripsSince } from '../src/trips/tripWatch';

const sample = (at: number, change: Partial<LiveSample> = {}): LiveSample => ({ at, link: 'up', trip: null, ...change }) as LiveSample;
const trip = { code: 11, name: 'x', sentence: 'y' };

describe('what the link told lately', () => {
  test('samples before a moment, without those of a trip or of no answer, none closer together than it needs', () => {
    const ring = new Ring();
    for (const at of [1000, 1050, 1100, 2000]) ring.add(sample(at));
    ring.add(sample(2500, { link: 'down' }));
    ring.add(sample(3000, { trip }));
    expect(ring.before(5000).map((s) => s.at)).toEqual([1000, 1100, 2000]);
    expect(ring.before(1500).map((s) => s.at)).toEqual([1000, 1100]);
  });
  test('no more than ten minutes are kept', () => {
    const ring = new Ring();
    for (let at = 0; at <= 900_000; at += 1000) ring.add(sample(at));
    expect(ring.before(Infinity)[0]?.at).toBe(300_000);
    expect(ring.before(Infinity)).toHaveLength(601);
  });
  test('a silence belongs to a trip that is near its end, and to no other', () => {
    const ring = new Ring();
    ring.add(sample(0));
    ring.add(sample(1000));
    ring.add(sample(6000, { trip }));
    expect(ring.silentAround(6000)).toBe(5);
    expect(ring.silentAround(20_000)).toBe(5);
    expect(ring.silentAround(40_000)).toBe(0);
    ring.add(sample(7000));
    expect(ring.silentAround(7000)).toBe(5);
  });
});

test.each([
  [4, 4, 0],
  [4, 6, 2],
  [0, 1, 1],
  // the word has run round
  [65535, 2, 3],
  // another drive, or one that has lost its memory: its trips are not this machine's
  [12, 3, null],
  [40_000, 0, null],
])('counted %p, now %p: %p new trips', (counted, now, fresh) => expect(tripsSince(counted, now)).toBe(fresh));

describe('what a drive keeps anyway', () => {
  test('is asked for again when an answer is lost on the way', async () => {
    const pause = jest.fn(async () => undefined);
    const read = jest.fn<Promise<string>, []>().mockRejectedValueOnce(new Error('timed out')).mockRejectedValueOnce(new Error('timed out'));
    read.mockResolvedValue('settings');
    expect(await patiently(read, pause)).toBe('settings');
    expect([read.mock.calls.length, pause.mock.calls.length]).toEqual([3, 2]);
  });
  test('is given up in the end where no answer comes', async () => {
    const read = jest.fn<Promise<string>, []>().mockRejectedValue(new Error('gone'));
    expect(await patiently(read, async () => undefined)).toBeNull();
    expect(read).toHaveBeenCalledTimes(5);
  });
});
