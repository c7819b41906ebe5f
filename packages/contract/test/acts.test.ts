import Ajv, { type AnySchema } from 'ajv';
import addFormats from 'ajv-formats';
import { actCodes, acts } from '../src';
import { actSamples } from './actSamples';

const ajv = addFormats(new Ajv({ allErrors: true }));
const troubles = (schema: AnySchema, detail: unknown) =>
  ajv.validate(schema, detail) ? [] : (ajv.errors ?? []).map((e) => `${e.instancePath} ${e.message}`);

test.each(actCodes)('%s is kept as it is described', (code) => {
  expect(troubles(acts[code].detail, actSamples[code])).toEqual([]);
});

test('what is missing from an act is told, not kept', () => {
  expect(troubles(acts['trip told'].detail, { trip: 9 })).not.toEqual([]);
  expect(troubles(acts.tripped.detail, { code: 'four', name: 'Overvoltage' })).not.toEqual([]);
  expect(troubles(acts['write to drive'].detail, { ...actSamples['write to drive'], outcome: 'perhaps' })).not.toEqual([]);
});

test('what may lead to a trip is what changes the drive, its plate, its wiring or what is known of it, and not a look or a run', () => {
  const lately = actCodes.filter((code) => acts[code].lately);
  for (const code of ['write to drive', 'go on writing to drive', 'edit survey', 'edit wiring', 'drive'] as const) expect(lately).toContain(code);
  for (const code of ['hold to run', 'note', 'mark recording', 'pair device', 'edit draft'] as const) expect(lately).not.toContain(code);
});
