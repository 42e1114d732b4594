// A set that is prepared for a second glaze pump, whose unit is still in its box: the technician typed the plate and what the pump
// has to hold, kept it for the order, and the engineer has changed the set-point since.

import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { Account } from '../access/account.entity.ts';
import { Drafts } from '../drafting/drafts.service.ts';
import { ENGINEER, TECHNICIAN } from './story.ts';

/** The motor is that of the first pump. */
const TYPED: Readonly<Record<string, string>> = {
  'plate.power': '1.5',
  'plate.voltage': '400',
  'plate.current': '3.6',
  'plate.frequency': '50',
  'plate.speed': '1420',
  'plate.powerFactor': '0.79',
  'supply.volts': '400',
  'supply.hertz': '50',
  'supply.ambient': '38',
  'ask.range.high': '6',
  'ask.setpoint': '2.4',
  'ask.process.full': '5',
  'ask.process.lag': '0.8',
  'ask.process.dead': '0.15',
};

@Injectable()
export class DemoDrafts {
  constructor(
    private readonly dataSource: DataSource,
    private readonly drafts: Drafts,
  ) {}

  async make(): Promise<void> {
    const [engineer, technician] = await Promise.all(
      [ENGINEER, TECHNICIAN].map((each) => this.account(each)),
    );
    if (!engineer || !technician) return;
    const { id } = await this.drafts.begin(
      {
        ...{ name: 'Second glaze pump', dictionary: 'toreka-f3@1', region: '50-hz', rating: null, tag: null },
        begins: { kind: 'point', id: 'pump-pressure' },
      },
      technician,
    );
    const fields = Object.entries(TYPED).map(([key, text]) => ({ key, text, why: '', seen: null }));
    await this.drafts.type(id, fields, technician);
    await this.drafts.keep(id, 'as it goes with the order', technician);
    const seen = (await this.drafts.view(id)).fields.find(({ key }) => key === 'ask.setpoint')?.id ?? null;
    const why = 'the new nozzles want more';
    await this.drafts.type(id, [{ key: 'ask.setpoint', text: '2.6', why, seen }], engineer);
  }

  private account(person: string): Promise<Account | null> {
    return this.dataSource.getRepository(Account).findOneBy({ person });
  }
}
