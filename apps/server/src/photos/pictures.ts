import sharp from 'sharp';
import { ProblemError } from '../problem';

/** Photos a machine may have. */
export const mostPhotos = 20;
/** What the photos of a plant may take altogether, bytes. */
export const mostPhotoBytes = 500e6;
/** Longest side that is kept, px: enough to read a plate by. */
const longestSide = 2400;
/** More than any phone takes; a picture that claims more is not opened. */
const mostPixels = 60e6;

/**
 * A picture as it is kept: decoded, turned upright, made no larger than it need be and written anew as JPEG, so that nothing but the
 * picture is kept of a file, and not where it was taken.
 * @throws ProblemError 415 when it cannot be decoded
 */
export async function pictureOf(file: unknown): Promise<Buffer> {
  try {
    if (!Buffer.isBuffer(file)) throw new Error('no bytes');
    return await sharp(file, { failOn: 'truncated', limitInputPixels: mostPixels })
      .rotate()
      .resize({ width: longestSide, height: longestSide, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#fff' })
      .jpeg({ quality: 85 })
      .toBuffer();
  } catch {
    throw new ProblemError(415, 'No picture', 'This file is no JPEG or PNG picture that can be read: a photo of the plate must be one.');
  }
}
