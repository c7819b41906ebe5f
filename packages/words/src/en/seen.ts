export const say = {
  preset: ({ number }: { number: number }) => `preset ${number}`,
  preset2: ({ n }: { n: string }) => `preset ${n}`,
};
