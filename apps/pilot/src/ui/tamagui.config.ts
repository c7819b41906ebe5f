import { createFont, createTamagui, createTokens } from '@tamagui/core';
import { day, fontFamily, night } from './palette';

const size = { 1: 11.5, 2: 13.5, 3: 16, 4: 18, 5: 23, 6: 24, true: 16 };
const font = (family: string) =>
  createFont({ family, size, lineHeight: { 1: 15, 2: 18, 3: 22, 4: 24, 5: 28, 6: 29, true: 22 }, weight: { 1: '400' }, letterSpacing: { 1: 0 } });

const space = { 0: 0, 1: 4, 2: 8, 3: 12, 4: 16, 5: 24, true: 12 };

export const config = createTamagui({
  themes: { light: day, dark: night },
  tokens: createTokens({ color: {}, space, size: space, radius: { 0: 0 }, zIndex: { 0: 0, 1: 10, 2: 20 } }),
  fonts: { text: font(fontFamily.text), bold: font(fontFamily.bold), mono: font(fontFamily.mono), monoBold: font(fontFamily.monoBold) },
  media: { wide: { minWidth: 1000 } },
  settings: { defaultFont: 'text', allowedStyleValues: 'somewhat-strict-web' },
});

type Config = typeof config;
declare module '@tamagui/core' {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type
  interface TamaguiCustomConfig extends Config {}
}
