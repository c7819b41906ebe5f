import type { TripDetail, TripEntry } from '@yare/contract';

/** Bus overvoltage of P-11 on its way down, as its drive remembers it, and its case. */
export const snapshot = {
  ...{ status: 0x37, hours: 1500, since: 40, outputFrequency: 39.2, reference: 0, motorCurrent: 16.6, busVoltage: 815, outputVoltage: 314 },
  ...{ torque: -64, driveTemperature: 33, motorHeat: 4, driveHeat: 2, analogueInput: 42, inputs: 0xc000 },
};
export const entry = (change: Partial<TripEntry> = {}): TripEntry => ({
  ...{
    id: 7,
    tag: 'P-11',
    source: 'link',
    code: 11,
    cause: 'overvoltage',
    name: 'Bus overvoltage',
    at: '2026-01-02T03:04:05Z',
    seen: true,
    closed: null,
  },
  ...change,
});
export const detail = (change: Partial<TripDetail> = {}): TripDetail => ({
  ...{
    entry: entry(),
    snapshot,
    afterwards: { silent: 0, busVoltage: 560, signal: 40 },
    inDrive: null,
    trendId: null,
    traceId: null,
    trendTrippedAt: null,
    answers: {},
  },
  ...{ lately: [{ at: '2026-01-01T00:00:00Z', author: 'Ines Calder', action: 'write to drive', detail: { codes: ['3b'], outcome: 'kept' } }] },
  ...{ others: [], repeats: 2, note: '' },
  ...change,
});
