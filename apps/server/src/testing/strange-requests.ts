// Requests made up from the description of the API: mostly of the right shape, with something strange in them. The same seed
// gives the same requests.

export interface Operation {
  readonly method: string;
  /** With its parameters in braces. */
  readonly path: string;
  readonly parameters: readonly { readonly name: string; readonly in: string; readonly schema?: Schema }[];
  readonly body: Schema | undefined;
}

interface Schema {
  readonly type?: string;
  readonly enum?: readonly unknown[];
  readonly items?: Schema;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly $ref?: string;
  readonly allOf?: readonly Schema[];
}

interface Description {
  readonly paths: Readonly<Record<string, Readonly<Record<string, OperationText>>>>;
  readonly components?: { readonly schemas?: Readonly<Record<string, Schema>> };
}

interface OperationText {
  readonly parameters?: Operation['parameters'];
  readonly requestBody?: { readonly content?: Readonly<Record<string, { readonly schema?: Schema }>> };
}

export interface StrangeRequest {
  readonly method: string;
  readonly path: string;
  /** JSON text; nothing for a request without a body. */
  readonly body: string | undefined;
}

export function operationsOf({ paths }: Description): readonly Operation[] {
  return Object.entries(paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, { parameters = [], requestBody }]) => ({
      method: method.toUpperCase(),
      path: path.replace('/api/', ''),
      parameters,
      body: requestBody?.content?.['application/json']?.schema,
    })),
  );
}

const STRANGE_TEXTS = [
  ...['', ' ', '\u0000', 'a\u0000b', '\ud800', '\udfff tail', '\u202e', '\ufeff', "'; drop table unit; --"],
  ...['%', '_', '\\', '../../etc/passwd', '%00', '%e0%a4%a', 'null', 'NaN', '-1', '1e400', '0x10', '١٢٣'],
  ...['2026-02-31', '2026-13-01', '0000-00-00', '99999-01-01', '2026-01-01T25:00:00Z', '24:00', '2:0'],
  ...['a'.repeat(300), 'ü'.repeat(5000), '\n'.repeat(50), '<script>', '${x}', 'constructor', '__proto__'],
];
const STRANGE_NUMBERS = [...[0, -1, 1, 0.5, 1e308, -1e308, 2 ** 31, 2 ** 32, 2 ** 53, 2 ** 63, -(2 ** 63)]];

export class StrangeRequests {
  private readonly schemas: Readonly<Record<string, Schema>>;
  private state: number;

  constructor(
    description: Description,
    /** What is there: tags, ids, codes, names. */
    private readonly known: readonly string[],
    seed: number,
  ) {
    this.schemas = description.components?.schemas ?? {};
    this.state = seed;
  }

  of({ method, path, parameters, body }: Operation): StrangeRequest {
    const filled = path.replace(/\{\w+\}/g, () => encodeURIComponent(wellFormed(this.word())));
    const query = parameters
      .filter((each) => each.in === 'query' && this.chance(0.7))
      .map(({ name, schema }) => `${name}=${encodeURIComponent(wellFormed(textOf(this.leaf(schema))))}`)
      .join('&');
    const odd = this.chance(0.02) ? '%E0%A4%A' : '';
    return {
      method,
      path: `${filled}${odd}${query === '' ? '' : `?${query}`}`,
      body: this.bodyText(method, body),
    };
  }

  private bodyText(method: string, schema: Schema | undefined): string | undefined {
    if (method === 'GET' || (method === 'DELETE' && schema === undefined)) return undefined;
    if (this.chance(0.01)) return `${'['.repeat(3000)}${']'.repeat(3000)}`;
    if (this.chance(0.01)) return `{"reason":${'{"a":'.repeat(3000)}1${'}'.repeat(3000)}}`;
    if (this.chance(0.01)) return this.pick(['', '{', 'null', '[]', '"x"', '7', '{"__proto__":{"x":1}}']);
    return JSON.stringify(this.value(schema, 0) ?? {});
  }

  private value(schema: Schema | undefined, depth: number): unknown {
    if (this.chance(0.06)) return this.strange();
    const whole = this.resolved(schema);
    if (whole?.type === 'array')
      return Array.from({ length: this.below(4) }, () => this.value(whole.items, depth + 1));
    if (whole?.properties && depth < 6) {
      const entries = Object.entries(whole.properties).filter(() => this.chance(0.93));
      const more = this.chance(0.03) ? [['surplus', 1] as const] : [];
      return Object.fromEntries([
        ...entries.map(([name, inner]) => [name, this.value(inner, depth + 1)] as const),
        ...more,
      ]);
    }
    return this.leaf(whole);
  }

  private leaf(schema: Schema | undefined): unknown {
    if (this.chance(0.12)) return this.strange();
    if (schema?.enum) return this.pick(schema.enum);
    if (schema?.type === 'boolean') return this.chance(0.5);
    if (schema?.type === 'number' || schema?.type === 'integer')
      return this.chance(0.5) ? this.below(300) : this.pick(STRANGE_NUMBERS);
    return this.word();
  }

  private word(): string {
    return this.chance(0.6) ? this.pick(this.known) : this.pick(STRANGE_TEXTS);
  }

  private strange(): unknown {
    const kinds: readonly unknown[] = [null, {}, [], [null], true, { toString: 1 }];
    return this.pick([...kinds, ...STRANGE_TEXTS, ...STRANGE_NUMBERS]);
  }

  private resolved(schema: Schema | undefined): Schema | undefined {
    if (schema?.$ref) return this.resolved(this.schemas[schema.$ref.split('/').at(-1) ?? '']);
    return schema?.allOf ? this.resolved(schema.allOf[0]) : schema;
  }

  private pick<T>(from: readonly T[]): T {
    return from[this.below(from.length)] as T;
  }

  private chance = (share: number): boolean => this.random() < share;

  private below = (limit: number): number => Math.floor(this.random() * limit);

  /** Mulberry32: small, and the same everywhere. */
  private random(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
  }
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

/** An address can hold any text but half a character. */
const wellFormed = (text: string): string => text.toWellFormed();
