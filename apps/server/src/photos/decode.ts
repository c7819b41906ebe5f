/**
 * A picture in a process of its own: the file comes in at stdin, the JPEG that is kept goes out at stdout. Decoders use threads and memory of
 * their process, and have had faults: here they take neither from the server, and whoever starts this ends it when it takes too long.
 */
import { setPriority } from 'node:os';
import sharp, { type Sharp } from 'sharp';
import { kindOf, longestSide, mostPixels } from './kinds';

setPriority(10);
sharp.concurrency(1);

async function decoded(file: Buffer): Promise<Sharp> {
  if (kindOf(file) !== 'image/heic') return sharp(file, { failOn: 'truncated', limitInputPixels: mostPixels });
  // a large decoder that few pictures want
  const { default: heic } = await import('heic-decode');
  const images = await heic.all({ buffer: file });
  const [first] = images;
  if (!first || first.width * first.height > mostPixels) throw new Error('no picture of a size that is taken');
  const { width, height, data } = await first.decode();
  return sharp(Buffer.from(data.buffer), { raw: { width, height, channels: 4 } });
}

const pieces: Buffer[] = [];
for await (const piece of process.stdin) pieces.push(piece as Buffer);
const picture = await decoded(Buffer.concat(pieces));
const jpeg = await picture
  .rotate()
  .resize({ width: longestSide, height: longestSide, fit: 'inside', withoutEnlargement: true })
  .flatten({ background: '#fff' })
  .jpeg({ quality: 85 })
  .toBuffer();
process.stdout.end(jpeg);
