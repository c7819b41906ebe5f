/** A row with its time as it crosses the boundary. */
export const at = <R extends { at: Date }>(row: R): Omit<R, 'at'> & { at: string } => ({ ...row, at: row.at.toISOString() });
