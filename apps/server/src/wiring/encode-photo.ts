// A photograph as it is kept: turned upright, small enough for a phone, and without what a camera writes beside the picture
// (place, time, device). Only what could be decoded whole is kept.

import sharp from 'sharp';
import { ProblemException } from '../problems/problem.ts';

/** Numbers on conductors can still be read at this size, in pixels. */
const LONGER_SIDE = 2000;
const QUALITY = 82;
/** Of 100 megapixels; a small file can hold a picture that fills the memory. */
const MOST_PIXELS = 100_000_000;
const SECONDS = 20;
const FORMATS: readonly (string | undefined)[] = ['jpeg', 'png'];

export interface EncodedPhoto {
  readonly content: Buffer;
  readonly width: number;
  readonly height: number;
}

export async function encodePhoto(file: Buffer): Promise<EncodedPhoto> {
  const format = await formatOf(file);
  if (!FORMATS.includes(format))
    throw refused(
      'The file is no JPEG and no PNG. Photographs of other kinds have to be saved as JPEG first.',
    );
  try {
    const { data, info } = await sharp(file, { limitInputPixels: MOST_PIXELS, failOn: 'truncated' })
      .timeout({ seconds: SECONDS })
      .rotate()
      .resize(LONGER_SIDE, LONGER_SIDE, { fit: 'inside', withoutEnlargement: true })
      .flatten({ background: 'white' })
      .jpeg({ quality: QUALITY })
      .toBuffer({ resolveWithObject: true });
    return { content: data, width: info.width, height: info.height };
  } catch {
    throw refused(
      'The picture cannot be read whole: the file is damaged, or the picture has more than 100 megapixels. Take it or copy it again.',
    );
  }
}

async function formatOf(file: Buffer): Promise<string | undefined> {
  try {
    return (await sharp(file, { limitInputPixels: MOST_PIXELS }).metadata()).format;
  } catch {
    return undefined;
  }
}

const refused = (detail: string): ProblemException =>
  new ProblemException(422, 'photo', `${detail} Nothing was kept.`);
