// The controller of a machine of several axes over Modbus: held while its axes are written, restarted afterwards. Holding
// registers from 0: kind of device, state, ready, command.

import type { ControllerView } from '@drive-keep/api';
import type { DriveLine } from '../lines/drive-line.ts';

const KIND = 7001;
const STATES = { runs: 1, held: 2 } as const;
const COMMANDS = { hold: 1, 'go-on': 2, restart: 3 } as const;
const COMMAND = 3;
const PATIENCE_MS = 8000;
const POLL_MS = 100;

export class ControllerLine {
  constructor(
    private readonly line: DriveLine,
    private readonly address: number,
  ) {}

  async state(): Promise<ControllerView['state']> {
    const now = await this.line.read(this.address, 0, COMMAND);
    if (!now.ok || now.value[0] !== KIND) return 'silent';
    if (now.value[1] === STATES.held) return 'held';
    return now.value[2] === 1 ? 'runs' : 'not-ready';
  }

  /** What stands in the way, in words; nothing where the machine is held. */
  async hold(): Promise<string | undefined> {
    const who = await this.line.read(this.address, 0, 1);
    if (!who.ok) return 'The controller of the machine does not answer. Is its supply on?';
    if (who.value[0] !== KIND) return `Address ${this.address} answers, but is no machine controller.`;
    return this.command('hold', ([, state]) => state === STATES.held, 'could not be held');
  }

  goOn = (): Promise<string | undefined> =>
    this.command('go-on', ([, state]) => state === STATES.runs, 'did not go on');

  /** Restarts it and waits until it says that all axes are ready. */
  restart = (): Promise<string | undefined> =>
    this.command(
      'restart',
      ([, state, ready]) => state === STATES.runs && ready === 1,
      'is not ready after its restart; look at its display',
    );

  private async command(
    name: keyof typeof COMMANDS,
    isThere: (words: readonly number[]) => boolean,
    trouble: string,
  ): Promise<string | undefined> {
    const sent = await this.line.write(this.address, COMMAND, [COMMANDS[name]]);
    if (!sent.ok) return `The controller of the machine ${trouble}.`;
    for (const until = performance.now() + PATIENCE_MS; performance.now() < until;) {
      const now = await this.line.read(this.address, 0, COMMAND);
      if (now.ok && isThere(now.value)) return undefined;
      await new Promise((resolve) => setTimeout(resolve, POLL_MS));
    }
    return `The controller of the machine ${trouble}.`;
  }
}
