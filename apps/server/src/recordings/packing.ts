import { deflateSync, inflateSync } from 'node:zlib';

/** Samples of a channel as they are stored: floats, deflated; time as doubles. */
export const pack = (values: readonly number[], double: boolean): Buffer => {
  const array = double ? Float64Array.from(values) : Float32Array.from(values);
  return deflateSync(Buffer.from(array.buffer));
};

/** The samples of a channel from its chunks, with so many decimals. */
export function unpack(chunks: readonly Buffer[], double: boolean, decimals: number): number[] {
  const out: number[] = [];
  for (const chunk of chunks) {
    const raw = inflateSync(chunk);
    const bytes = raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength);
    const array = double ? new Float64Array(bytes) : new Float32Array(bytes);
    for (const v of array) out.push(Number(v.toFixed(decimals)));
  }
  return out;
}
