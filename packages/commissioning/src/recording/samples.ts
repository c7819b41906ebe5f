import type { RecordingData, RecordingMeta } from '@yare/contract';
import { nth } from '@yare/core';

/** Bytes a sample of the time, and one of a channel, takes. */
const timeBytes = 8;
const valueBytes = 4;
/** Decimals of a second a recording's time is told with. */
export const timeDecimals = 6;

/** A recording from its packed samples: all times as doubles, then every channel's values as floats, little end first. */
export function recordingFrom(meta: RecordingMeta, packed: ArrayBuffer): RecordingData {
  const n = Math.floor(packed.byteLength / (timeBytes + valueBytes * meta.channels.length));
  const rounded = (values: Float64Array | Float32Array, decimals: number): number[] => {
    const scale = 10 ** decimals;
    // a list begun with its length would be slow to read ever after
    const out: number[] = [];
    for (let i = 0; i < n; i++) out.push(Math.round(nth(values, i) * scale) / scale);
    return out;
  };
  const channels = meta.channels.map((c, k) => [c.key, rounded(new Float32Array(packed, n * (timeBytes + valueBytes * k), n), c.decimals)] as const);
  return { meta, time: rounded(new Float64Array(packed, 0, n), timeDecimals), data: Object.fromEntries(channels) };
}

/** Floats of four or eight bytes as base64. */
export function toBase64(values: Float32Array | Float64Array): string {
  const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
  const piece = 0x8000;
  let text = '';
  for (let at = 0; at < bytes.length; at += piece) text += String.fromCharCode(...bytes.subarray(at, at + piece));
  return btoa(text);
}
