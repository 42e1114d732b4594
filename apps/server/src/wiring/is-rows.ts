// Rows of a table as they come in a request: lists of short texts.

import { ValidateBy, type ValidationOptions } from 'class-validator';

const MOST_CELLS = 12;
const MOST_LETTERS = 400;

const isRow = (row: unknown): boolean =>
  Array.isArray(row) &&
  row.length <= MOST_CELLS &&
  row.every((cell) => typeof cell === 'string' && cell.length <= MOST_LETTERS && !/[\0\r\n]/.test(cell));

export const IsRows = (options?: ValidationOptions): PropertyDecorator =>
  ValidateBy(
    {
      name: 'isRows',
      validator: {
        validate: (value): boolean => Array.isArray(value) && value.every(isRow),
        defaultMessage: () => `each row is a list of at most ${MOST_CELLS} texts of one line`,
      },
    },
    options,
  );
