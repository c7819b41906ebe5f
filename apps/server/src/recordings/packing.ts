import { deflateSync, inflateSync } from 'node:zlib';

/** Samples of a channel as they are stored: floats, deflated; time as doubles. */
export const pack = (values: readonly number[], double: boolean): Buffer => {
  const array = double ? Float64Array.from(values) : Float32Array.from(values);
  return deflateSync(Buffer.from(array.buffer));
};

/** Samples of a channel from its chunks, unpacked, byte after byte. */
export const bytesOf = (chunks: readonly Buffer[]): Buffer => Buffer.concat(chunks.map((c) => inflateSync(c)));
