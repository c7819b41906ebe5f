import { GuidedRun } from '@yare/commissioning';
import type { LiveSample, RunGuide } from '@yare/contract';
import { leadRun, refuseGuide } from '../src/runs/leadRun';

const sample = (at: number, outputFrequency: number, feedback: number, link: LiveSample['link'] = 'up'): LiveSample =>
  ({ tag: 'P-11', at, link, outputFrequency, feedback }) as LiveSample;
const run = (guide: RunGuide) => new GuidedRun(30, guide);

describe('a led run', () => {
  test('is refused where it would stop the machine or turn it round, whichever way it goes', () => {
    const refused = (guide: RunGuide) => expect(() => refuseGuide(30, guide, undefined)).toThrow('turn it round');
    refused({ kind: 'step', by: -30 });
    refused({ kind: 'there and back', by: 30 });
    refused({ kind: 'speeds', speeds: [30, 20, -10] });
    expect(() => refuseGuide(30, { kind: 'speeds', speeds: [45, 50] }, undefined)).toThrow('not the one that was asked for');
    expect(() => refuseGuide(30, { kind: 'speeds', speeds: [30, 20] }, undefined)).not.toThrow();
    expect(() => refuseGuide(-30, { kind: 'there and back', by: 10 }, undefined)).not.toThrow();
  });

  test('waits while the link is down or the speed is not reached, and goes on once the feedback stands', () => {
    const guide = run({ kind: 'speeds', speeds: [30, 40] });
    for (let t = 0; t < 20_000; t += 100) expect(leadRun(guide, sample(t, 25, 20)).state).toBe('as before');
    for (let t = 20_000; t < 40_000; t += 100) expect(leadRun(guide, sample(t, 30, 20, 'down')).state).toBe('as before');
    let on = 0;
    for (let t = 40_000; on === 0 && t < 60_000; t += 100) if (leadRun(guide, sample(t, 30, 20)).state === 'on') on = t;
    expect(on).toBeLessThan(50_000);
    expect(guide.frequency).toBe(40);
  });

  test('ends at an end of the sensor’s range; through the speeds a feedback of nothing is no end', () => {
    const after = (guide: RunGuide, feedback: number) => {
      const led = run(guide);
      leadRun(led, sample(0, 30, feedback));
      return leadRun(led, sample(1500, 30, feedback));
    };
    expect(after({ kind: 'step', by: 5 }, 1)).toMatchObject({ state: 'out of band', reason: expect.stringContaining('1.0 %') });
    expect(after({ kind: 'speeds', speeds: [30, 40] }, 1).state).toBe('as before');
    expect(after({ kind: 'speeds', speeds: [30, 40] }, 99).state).toBe('out of band');
  });
});
