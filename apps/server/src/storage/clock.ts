import { Injectable } from '@nestjs/common';

/** The time by which releases run out and waiting is measured; tests move it. */
@Injectable()
export class Clock {
  now(): Date {
    return new Date();
  }
}
