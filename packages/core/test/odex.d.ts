/** What is used of odex; its own sources are not written for strict TypeScript. */
export class Solver {
  constructor(
    f: (x: number, y: number[]) => number[],
    n: number,
    options?: { absoluteTolerance?: number; relativeTolerance?: number; maxSteps?: number },
  );
  integrate(x0: number, y0: number[]): (x: number) => number[];
}
