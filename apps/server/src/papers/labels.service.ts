// Labels for cabinets: whoever stands before one reads its code with a phone and has the position.

import { Injectable } from '@nestjs/common';
import { Overview } from '../overview/overview.service.ts';
import { filterRegister } from '../overview/register-filter.ts';
import { ProblemException } from '../problems/problem.ts';
import { PlantSettings } from '../register/plant-settings.service.ts';
import type { LabelSheet } from './label-sheet.ts';
import { writeLabels } from './paper-file.ts';

/** Ten sheets: more are printed area by area. */
const MOST_LABELS = 240;

@Injectable()
export class Labels {
  constructor(
    private readonly overview: Overview,
    private readonly settings: PlantSettings,
  ) {}

  async sheet(
    where: { readonly area?: string | undefined; readonly machine?: string | undefined },
    skip: number,
  ): Promise<Uint8Array> {
    const { name, address } = await this.settings.view();
    if (address === '') {
      const detail =
        'A label leads to an address, and none is told. Enter under The plant at which address people reach Drive Keep.';
      throw new ProblemException(409, 'no-address', detail);
    }
    const { positions } = filterRegister(await this.overview.positions(), {
      ...where,
      sort: 'plant',
      backwards: false,
    });
    if (positions.length === 0 || positions.length > MOST_LABELS) {
      const detail =
        positions.length === 0
          ? 'No position is there. Choose another area.'
          : `${positions.length} labels are too many at once; ${MOST_LABELS} fit. Choose an area or a machine.`;
      throw new ProblemException(422, 'labels', detail);
    }
    const labels = positions.map(({ tag, duty }) => ({
      ...{ tag, duty },
      address: `${address}/positions/${encodeURIComponent(tag)}`,
    }));
    const sheet: LabelSheet = { kind: 'labels', plant: name, labels, skip };
    return writeLabels(sheet);
  }
}
