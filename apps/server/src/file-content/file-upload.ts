import { applyDecorators, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiBody, ApiConsumes } from '@nestjs/swagger';
import { MOST_BYTES } from './uploaded-file.ts';

const MOST_FIELDS = 8;

/** A route that takes one file with some fields beside it, as a form. */
export const TakesFile = () =>
  applyDecorators(
    UseInterceptors(
      FileInterceptor('file', { limits: { fileSize: MOST_BYTES, files: 1, fields: MOST_FIELDS } }),
    ),
    ApiConsumes('multipart/form-data'),
    ApiBody({ schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } } }),
  );
