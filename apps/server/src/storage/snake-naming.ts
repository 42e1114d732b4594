// Columns and tables in snake case, as SQL is written by hand; properties in camel case, as TypeScript is.

import { DefaultNamingStrategy } from 'typeorm';

export const snakeCase = (name: string): string =>
  name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

export class SnakeNaming extends DefaultNamingStrategy {
  override columnName(propertyName: string, customName: string | undefined): string {
    return customName ?? snakeCase(propertyName);
  }

  override joinColumnName(relationName: string): string {
    return `${snakeCase(relationName)}_id`;
  }
}
