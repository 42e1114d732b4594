// Refused sign-ins in the logbook: the first one at once, all that follow within some minutes in one entry. Whoever guesses a
// thousand passwords does not bury the rest of the logbook under a thousand rows.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { Logbook } from '../logbook/logbook.service.ts';

const GATHER_MS = 300_000;
/** Names that are told one by one. */
const MOST_NAMES = 5;

@Injectable()
export class RefusedSignIns implements OnApplicationShutdown {
  private readonly logger = new Logger('RefusedSignIns');
  private readonly gathered = new Map<string, number>();
  private timer: NodeJS.Timeout | undefined;

  constructor(private readonly logbook: Logbook) {}

  async note(name: string): Promise<void> {
    if (this.timer) {
      this.gathered.set(name, (this.gathered.get(name) ?? 0) + 1);
      return;
    }
    this.timer = setTimeout(() => {
      this.tell().catch((error: unknown) => this.logger.error(String(error)));
    }, GATHER_MS);
    await this.write(`Sign-in refused for "${name}".`);
  }

  /** Writes down what was gathered, and begins anew. */
  async tell(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    const names = [...this.gathered].sort(([, a], [, b]) => b - a);
    this.gathered.clear();
    const total = names.reduce((sum, [, count]) => sum + count, 0);
    if (total === 0) return;
    const told = names.slice(0, MOST_NAMES).map(([name, count]) => `"${name}" ${count} times`);
    const more = names.length > MOST_NAMES ? `, and ${names.length - MOST_NAMES} other names` : '';
    await this.write(`Sign-in refused ${total} more times within 5 min: ${told.join(', ')}${more}.`);
  }

  async onApplicationShutdown(): Promise<void> {
    await this.tell().catch((error: unknown) => this.logger.error(String(error)));
  }

  private write = (text: string): Promise<void> =>
    this.logbook.write({ person: 'nobody', action: 'sign-in-refused', text });
}
