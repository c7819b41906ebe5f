/** A seeded generator (mulberry32, Tommy Ettinger, public domain): the same seed gives the same run. */
export interface Random {
  /** 0 ≤ x < 1 */
  uniform(): number;
  /** mean 0, standard deviation 1 (Box–Muller) */
  normal(): number;
}

export function random(seed: number): Random {
  let a = seed >>> 0;
  const uniform = () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return { uniform, normal: () => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform()) };
}
