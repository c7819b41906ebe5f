import { deflateSync } from 'node:zlib';

/** Samples of a channel as they are stored: floats, deflated; time as doubles. */
export const pack = (values: ArrayLike<number>, double: boolean): Buffer => {
  const array = double ? Float64Array.from(values) : Float32Array.from(values);
  return deflateSync(Buffer.from(array.buffer));
};
