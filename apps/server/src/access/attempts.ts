// How many wrong passwords are taken: by name and address together, by name, by address, and in all. A browser that the right
// person has signed in with before has a count of its own, so that nobody is locked out by somebody else's guessing.

import { Injectable } from '@nestjs/common';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { ProblemException } from '../problems/problem.ts';

const WINDOW_SECONDS = 300;
/** A person who mistypes stays below. */
const MOST_OF_A_PERSON = 8;
/** A plant behind one address, and a name that is asked for from many. */
const MOST_OF_AN_ADDRESS = 60;
const MOST_OF_A_NAME = 40;
const MOST_IN_ALL = 400;

interface Attempt {
  readonly name: string;
  readonly from: string;
  /** Hash of the browser's token, where it has signed in to this account before. */
  readonly device: string | undefined;
}

@Injectable()
export class Attempts {
  private readonly person = limiter(MOST_OF_A_PERSON);
  private readonly address = limiter(MOST_OF_AN_ADDRESS);
  private readonly name = limiter(MOST_OF_A_NAME);
  private readonly all = limiter(MOST_IN_ALL);

  /** Counts one before the password is looked at; a problem where there were too many. */
  async count({ name, from, device }: Attempt): Promise<void> {
    if (device !== undefined) return consume(this.person, `device ${device}`);
    await consume(this.person, pairOf(name, from));
    await consume(this.address, from);
    await consume(this.name, name);
    await consume(this.all, 'all');
  }

  /** The right password was given: what was counted against this person there is forgotten. */
  async forgive({ name, from, device }: Attempt): Promise<void> {
    await this.person.delete(device === undefined ? pairOf(name, from) : `device ${device}`);
  }

  /** The present password, asked for once more by somebody who is signed in. */
  countOld = (accountId: string): Promise<void> => consume(this.person, `old ${accountId}`);
}

const limiter = (points: number) => new RateLimiterMemory({ points, duration: WINDOW_SECONDS });

const pairOf = (name: string, from: string): string => `${from}|${name}`;

async function consume(limit: RateLimiterMemory, key: string): Promise<void> {
  try {
    await limit.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const minutes = Math.ceil(error.msBeforeNext / 60_000);
    const detail = `Too many wrong attempts. Try again in ${minutes} min.`;
    throw new ProblemException(429, 'too-many-attempts', detail);
  }
}
