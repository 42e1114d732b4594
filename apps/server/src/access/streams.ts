// Server-sent events of a person: so many at a time, and only as long as that person is signed in.

import { Injectable } from '@nestjs/common';
import {
  catchError,
  defer,
  EMPTY,
  filter,
  finalize,
  from,
  interval,
  merge,
  switchMap,
  takeUntil,
  type Observable,
} from 'rxjs';
import { ProblemException } from '../problems/problem.ts';
import type { Account } from './account.entity.ts';
import { Access } from './access.service.ts';
import { hashToken } from './token-hash.ts';

/** Each is a connection that stays open; a person with several screens has a handful. */
const MOST_PER_PERSON = 24;
/** How soon the end of a session is seen that another server process has ended, in ms. */
const LOOK_AGAIN_MS = 15_000;

@Injectable()
export class Streams {
  private readonly open = new Map<string, number>();

  constructor(private readonly access: Access) {}

  /** The source for this person, until it ends or the session does. */
  forPerson<T>({ id }: Account, token: string, source: Observable<T>): Observable<T> {
    if ((this.open.get(id) ?? 0) >= MOST_PER_PERSON) {
      const detail = `More than ${MOST_PER_PERSON} screens of yours are following something at once. Close some of them.`;
      throw new ProblemException(429, 'too-many-streams', detail);
    }
    const ended = merge(
      this.access.ended.pipe(filter((each) => each === hashToken(token))),
      interval(LOOK_AGAIN_MS).pipe(
        switchMap(() => from(this.access.accountOf(token)).pipe(catchError(() => EMPTY))),
        filter((account) => account === undefined),
      ),
    );
    return defer(() => {
      this.count(id, 1);
      return source;
    }).pipe(
      takeUntil(ended),
      finalize(() => this.count(id, -1)),
    );
  }

  private count(id: string, by: number): void {
    const now = (this.open.get(id) ?? 0) + by;
    if (now === 0) this.open.delete(id);
    else this.open.set(id, now);
  }
}
