import {
  applyDecorators,
  Injectable,
  UseInterceptors,
  type CallHandler,
  type ExecutionContext,
  type NestInterceptor,
} from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiBody, ApiConsumes, ApiQuery } from '@nestjs/swagger';
import { MOST_BYTES, TEXT_ENCODINGS, type UploadedFile } from './uploaded-file.ts';

const MOST_FIELDS = 20;

/** What a phone's camera makes is below it. */
const MOST_PHOTO_BYTES = 20_000_000;

/** Somebody has seen that a text is no UTF-8, and says as what it is to be read: `?encoding=latin-1`. */
@Injectable()
class ReadAs implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler) {
    const { file, query } = context.switchToHttp().getRequest<{
      file?: { -readonly [K in keyof UploadedFile]: UploadedFile[K] };
      query: { encoding?: unknown };
    }>();
    const readAs = TEXT_ENCODINGS.find((encoding) => encoding === query.encoding);
    if (file && readAs) file.readAs = readAs;
    return next.handle();
  }
}

/** A route that takes one file with some fields beside it, as a form. */
export const TakesFile = () =>
  applyDecorators(takes(MOST_BYTES), ApiQuery({ name: 'encoding', enum: TEXT_ENCODINGS, required: false }));
/** The same for a photograph. */
export const TakesPhoto = () => takes(MOST_PHOTO_BYTES);

const takes = (fileSize: number) =>
  applyDecorators(
    // Browsers send the names of files in UTF-8.
    UseInterceptors(
      FileInterceptor('file', {
        limits: { fileSize, files: 1, fields: MOST_FIELDS },
        defParamCharset: 'utf8',
      }),
      ReadAs,
    ),
    ApiConsumes('multipart/form-data'),
    ApiBody({ schema: { type: 'object', properties: { file: { type: 'string', format: 'binary' } } } }),
  );
