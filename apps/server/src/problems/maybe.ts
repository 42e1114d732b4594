import { ValidateIf } from 'class-validator';

/** A field that may be left out. It is not null: where nothing is a value of its own, the field says so. */
export const Maybe = (): PropertyDecorator => ValidateIf((_, value) => value !== undefined);
