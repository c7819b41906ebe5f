/** Which causes of the library a fault that a drill hides stands for, by the fault's id on the bench. */
export const drillCauses: Readonly<Record<string, readonly string[]>> = {
  swell: ['surge on the line'],
  dip: ['supply dip'],
  short: ['short in the cable'],
  jam: ['jam'],
  external: ['chain opened'],
  sto: ['one channel open'],
  motorPhase: ['motor lead open'],
  earth: ['wet insulation'],
};
