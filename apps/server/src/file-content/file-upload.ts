import { applyDecorators, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiBody, ApiConsumes } from '@nestjs/swagger';
import { MOST_BYTES } from './uploaded-file.ts';

const MOST_FIELDS = 8;

/** What a phone's camera makes is below it. */
const MOST_PHOTO_BYTES = 20_000_000;

/** A route that takes one file with some fields beside it, as a form. */
export const TakesFile = () => takes(MOST_BYTES);
/** The same for a photograph. */
export const TakesPhoto = () => takes(MOST_PHOTO_BYTES);

const takes = (fileSize: number) =>
  applyDecorators(
    UseInterceptors(FileInterceptor('file', { limits: { fileSize, files: 1, fields: MOST_FIELDS } })),
    ApiConsumes('multipart/form-data'),
    ApiBody({ schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } } }),
  );
