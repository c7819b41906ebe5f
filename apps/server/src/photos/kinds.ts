/** Longest side that is kept, px: enough to read a plate by. */
export const longestSide = 2400;
/** More than any phone takes; a picture that claims more is not opened. */
export const mostPixels = 60e6;

/** Brands of the ISO base media file format that hold one picture coded as HEVC (ISO/IEC 23008-12; from memory). */
const heicBrands = ['heic', 'heix', 'heim', 'heis', 'mif1', 'msf1'];

/** What kind of picture a file is by its first bytes, whatever it is said to be; null for any but the four that are taken. */
export function kindOf(file: Buffer): 'image/jpeg' | 'image/png' | 'image/webp' | 'image/heic' | null {
  const text = (from: number, to: number) => file.toString('latin1', from, to);
  if (text(0, 3) === '\xff\xd8\xff') return 'image/jpeg';
  if (text(0, 8) === '\x89PNG\r\n\x1a\n') return 'image/png';
  if (text(0, 4) === 'RIFF' && text(8, 12) === 'WEBP') return 'image/webp';
  if (text(4, 8) === 'ftyp' && heicBrands.includes(text(8, 12))) return 'image/heic';
  return null;
}
