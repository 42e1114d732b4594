// Dictionaries by id. They are read from their original files once and then kept, as they never change.

import { Injectable } from '@nestjs/common';
import { readModel, type Dictionary, type LineFacts, type ModelFiles } from '@drive-keep/core/dictionary';
import { DataSource } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import { StoredDictionary } from './dictionary.entity.ts';

@Injectable()
export class Dictionaries {
  private readonly known = new Map<string, Dictionary>();

  constructor(private readonly dataSource: DataSource) {}

  async get(id: string): Promise<Dictionary> {
    const known = this.known.get(id);
    if (known) return known;
    const stored = await this.dataSource.getRepository(StoredDictionary).findOneBy({ id });
    if (!stored) throw notFound(`The dictionary ${id}`);
    const read = readModel(filesOf(stored));
    if (!read.ok) throw new Error(`dictionary ${id} was kept but cannot be read`);
    this.known.set(id, read.value);
    return read.value;
  }

  async all(): Promise<readonly StoredDictionary[]> {
    return this.dataSource
      .getRepository(StoredDictionary)
      .find({ order: { maker: 'ASC', name: 'ASC', version: 'DESC' } });
  }
}

export const filesOf = (stored: StoredDictionary): ModelFiles => ({
  model: stored.modelFile,
  parameters: stored.parametersFile,
  terminals: stored.terminalsFile,
});

/** The line facts of a model that units are read from; keypad-only models have none. */
export function lineFactsOf(dictionary: Dictionary): LineFacts {
  if (!dictionary.line) throw new Error(`${dictionary.id} has no line`);
  return dictionary.line;
}
