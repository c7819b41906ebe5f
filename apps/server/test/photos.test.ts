import { Pictures } from '../src/photos/pictures';
import sharp from 'sharp';
import { present } from '@yare/core';
import { startStack, type Stack } from './stack';

let stack: Stack;
const steady = 0;
beforeAll(async () => {
  stack = await startStack({ steady: () => steady });
});
afterAll(() => stack.stop());
const call = (method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, payload?: object) =>
  stack.app.inject({ method, url: `/api/v1${path}`, ...(payload && { payload }) });

describe('photos', () => {
  const send = (payload: Buffer, type = 'image/jpeg', tag = 'C-21') =>
    stack.app.inject({ method: 'POST', url: `/api/v1/machines/${tag}/photos?author=Ines`, headers: { 'content-type': type }, payload });
  const picture = (width: number, height: number) => sharp({ create: { width, height, channels: 3, background: '#7a5a00' } });

  test('what is kept is the picture, decoded and no larger than it need be, without what else the file held', async () => {
    const jpeg = await picture(3000, 1500)
      .withExif({ IFD0: { Copyright: 'where it was taken' } })
      .jpeg()
      .toBuffer();
    const meta = (await send(jpeg)).json();
    expect(meta).toMatchObject({ type: 'image/jpeg', author: 'Ines' });
    const back = await call('GET', `/photos/${meta.id}`);
    expect(back.headers['content-type']).toBe('image/jpeg');
    const seen = await sharp(back.rawPayload).metadata();
    expect([seen.width, seen.height, seen.format, seen.exif]).toEqual([2400, 1200, 'jpeg', undefined]);
    expect((await send(await picture(40, 30).png().toBuffer(), 'image/png')).statusCode).toBe(200);
  });

  test('JPEG, PNG, WebP and HEIC are told by their first bytes, whatever they are said to be', async () => {
    // 48 × 32 px of one red, as an encoder of Debian's wrote it
    const heic = Buffer.from(
      'AAAAHGZ0eXBoZWljAAAAAG1pZjFoZWljbWlhZgAAAa1tZXRhAAAAAAAAACFoZGxyAAAAAAAAAABwaWN0AAAAAAAAAAAAAAAAAAAAAA5waXRtAAAAAAACAAAAEGlkYXQAAAAAADAAIAAAADhpbG9jAQAAAERAAAIAAQAAAAAAAAHRAAEAAAAAAAAAGgACAAEAAAAAAAAAAQAAAAAAAAAIAAAAOGlpbmYAAAAAAAIAAAAVaW5mZQIAAAEAAQAAaHZjMQAAAAAVaW5mZQIAAAAAAgAAZ3JpZAAAAADYaXBycAAAALZpcGNvAAAAdmh2Y0MBA3AAAAAAAAAAAAAe8AD8/fj4AAAPAyAAAQAYQAEMAf//A3AAAAMAkAAAAwAAAwAeugJAIQABACpCAQEDcAAAAwCQAAADAAADAB6gIIEFlurkprm4EBAwIAAAAwAgAAADACEiAAEABkQBwXPAiQAAABRpc3BlAAAAAAAAAEAAAABAAAAAFGlzcGUAAAAAAAAAMAAAACAAAAAQcGl4aQAAAAADCAgIAAAAGmlwbWEAAAAAAAAAAgABAoECAAICA4QAAAAaaXJlZgAAAAAAAAAOZGltZwACAAEAAQAAACJtZGF0AAAAFigBrxmA70mlv//KjH/kxq/2mtaY+bg=',
      'base64',
    );
    const webp = await picture(40, 30).webp().toBuffer();
    for (const [file, type] of [
      [heic, 'image/heic'],
      [webp, 'image/webp'],
      [webp, 'image/jpeg'],
    ] as const)
      expect((await send(file, type, 'P-42')).statusCode).toBe(200);
    const [, , first] = (await call('GET', '/machines/P-42/photos')).json();
    const seen = await sharp((await call('GET', `/photos/${first.id}`)).rawPayload)
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([seen.info.width, seen.info.height]).toEqual([48, 32]);
    const [red = 0, green = 0, blue = 0] = seen.data;
    expect([red > 180, green < 80, blue < 50]).toEqual([true, true, true]);
  });

  test('a drawing that says it is a picture is never drawn, and nobody waits for it', async () => {
    // filters upon filters over a large area: a drawing program is busy with this for minutes
    const filters = Array.from({ length: 60 }, () => '<feTurbulence baseFrequency="0.9" numOctaves="9"/><feGaussianBlur stdDeviation="90"/>').join(
      '',
    );
    const svg = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="7000" height="7000"><filter id="f">${filters}</filter><rect width="7000" height="7000" filter="url(#f)"/></svg>`,
    );
    const answers = await Promise.all(['image/png', 'image/jpeg', 'image/webp', 'image/heic'].map((type) => send(svg, type)));
    expect(answers.map((a) => a.statusCode)).toEqual([415, 415, 415, 415]);
  });

  test('a helper that ends is told, nobody waits for it, and the next picture has another one', async () => {
    const pictures = new Pictures();
    const jpeg = await picture(40, 30).jpeg().toBuffer();
    const first = await pictures.begin();
    const asked = pictures.picture(await picture(3000, 2000).png().toBuffer());
    first.process.kill('SIGKILL');
    await expect(asked).rejects.toThrow('try again');
    expect((await pictures.picture(jpeg)).length).toBeGreaterThan(100);
    await pictures.stop();
  });

  test('a picture that claims more than any phone takes is not opened', async () => {
    const wide = await sharp({ create: { width: 9000, height: 9000, channels: 3, background: '#fff' } })
      .png({ compressionLevel: 9 })
      .toBuffer();
    expect(wide.length).toBeLessThan(1e6);
    expect((await send(wide, 'image/png')).statusCode).toBe(415);
  });

  test('what only begins like a picture is refused', async () => {
    const png = Buffer.concat([Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]), Buffer.alloc(5000, 7)]);
    expect((await send(png, 'image/png')).statusCode).toBe(415);
    const jpeg = await picture(200, 200).jpeg().toBuffer();
    expect((await send(jpeg.subarray(0, 150))).statusCode).toBe(415);
    expect((await send(Buffer.from('<script>'), 'text/html')).statusCode).toBe(415);
    expect((await call('GET', '/machines/C-21/photos')).json()).toHaveLength(2);
  });

  test('a machine has room for twenty; one can be removed, and the log says so', async () => {
    const small = await picture(8, 8).jpeg().toBuffer();
    const id = (await stack.db('machines').where({ tag: 'P-43' }).first())?.id ?? 0;
    await stack.db('photos').insert(Array.from({ length: 17 }, () => ({ machine_id: id, type: 'image/jpeg', data: small, author: 'Ines' })));
    const answers = await Promise.all(Array.from({ length: 5 }, () => send(small, 'image/jpeg', 'P-43')));
    expect(answers.filter((a) => a.statusCode === 200)).toHaveLength(3);
    expect(present(answers.find((a) => a.statusCode === 409)).json().detail).toContain('P-43 has 20 photos');
    const [first] = (await call('GET', '/machines/P-43/photos')).json();
    expect((await call('DELETE', `/photos/${first.id}?author=Tom`)).statusCode).toBe(200);
    expect((await call('DELETE', `/photos/${first.id}?author=Tom`)).statusCode).toBe(404);
    expect((await call('GET', '/audit?tag=P-43')).json().events[0]).toMatchObject({
      action: 'remove photo',
      author: 'Tom',
      detail: { takenBy: 'Ines' },
    });
    expect((await send(small, 'image/jpeg', 'P-43')).statusCode).toBe(200);
  });
});
