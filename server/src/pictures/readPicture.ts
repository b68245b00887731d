import { refusalWords } from '@ivory/contract';
import { fileTypeFromBuffer } from 'file-type';
import pLimit from 'p-limit';
import sharp from 'sharp';
import { Refusal } from '../refusal.ts';

sharp.concurrency(1);
sharp.cache(false);

/** Formats that are taken, told by their first bytes. What is none of them is never opened: an SVG may be a program. */
const FORMATS: Readonly<Record<string, string>> = {
  'image/jpeg': 'jpeg',
  'image/png': 'png',
  'image/webp': 'webp',
  'image/gif': 'gif',
  'image/avif': 'avif',
};
export const LARGEST_PICTURE = 10 * 1024 * 1024;
/** Ten thousand by ten thousand; what is larger would fill the memory when it is opened. */
const MOST_PIXELS = 100_000_000;
const QUALITY = 82;

export interface ReadPicture {
  readonly format: string;
  readonly width: number;
  readonly height: number;
}

/** So many pictures are open at a time, so that memory does not grow with those that are dropped. */
const atATime = pLimit(2);

const open = (bytes: Uint8Array) => sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' }).rotate();

/** What a file is, by its content and not by its name. Refuses what is no picture that is taken, too large, or broken. */
export function readPicture(name: string, bytes: Uint8Array): Promise<ReadPicture> {
  const refuse = (why: string) => new Refusal('not valid', refusalWords.pictures.notTaken(name, why));
  return atATime(async () => {
    const format = FORMATS[(await fileTypeFromBuffer(bytes))?.mime ?? ''];
    if (format === undefined) throw refuse(refusalWords.pictures.noPicture);
    const broken = () => {
      throw refuse(refusalWords.pictures.pictureBroken);
    };
    const { autoOrient } = await sharp(bytes, { limitInputPixels: false }).metadata().catch(broken);
    const { width, height } = autoOrient;
    if (width * height > MOST_PIXELS) throw refuse(refusalWords.pictures.pictureTooLarge(width, height));
    // Whether it is whole is known when all of it was read.
    await open(bytes).stats().catch(broken);
    return { format, width, height };
  });
}

/** A square rendition of a picture with sides of so many pixels, padded, as WebP. */
export const renderPicture = (bytes: Uint8Array, side: number): Promise<Uint8Array> =>
  atATime(() =>
    open(bytes).resize(side, side, { fit: 'contain', background: '#ffffff' }).webp({ quality: QUALITY }).toBuffer(),
  );
