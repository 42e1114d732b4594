// A position as the calculators see it: one of its sets with wiring, motor and site. Nothing until all of it has been answered.

import { groundOf, NO_SITE, type Ground } from '@drive-keep/core/checks';
import type { Code } from '@drive-keep/core/dictionary';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import type { Reading } from '@drive-keep/core/values';
import { useMemo } from 'react';
import {
  useDictionary,
  useDryRunView,
  useMotors,
  usePosition,
  usePositionSite,
  useVocabulary,
} from '../api/queries.ts';
import { wiringOf } from '../dry-run/dry-runner.ts';

export interface GroundAnswer {
  readonly ground: Ground | undefined;
  readonly title: string;
  readonly error: Error | null;
}

export function useGround(tag: string, set: string): GroundAnswer {
  const enabled = tag !== '';
  const view = useDryRunView(tag, set, enabled);
  const position = usePosition(tag, enabled);
  const site = usePositionSite(tag, enabled);
  const motors = useMotors();
  const vocabulary = useVocabulary();
  const dictionary = useDictionary(view.data?.dictionary);
  const ground = useMemo(() => {
    const [kept, place] = [view.data, site.data];
    if (!kept || !place || !position.data || !motors.data || !vocabulary.data || !dictionary.data)
      return undefined;
    const { entries, functions } = vocabulary.data;
    const bridge = new Bridge(new Vocabulary(entries, functions));
    const { supply, cabinet } = place;
    const readings = new Map(kept.readings as readonly (readonly [Code, Reading])[]);
    return groundOf(bridge, dictionary.data, kept, readings, {
      plate: motors.data.find(({ id }) => id === position.data.motorId)?.plate ?? null,
      wiring: kept.wiringRevision > 0 ? wiringOf(kept.wiring) : null,
      site: {
        ...NO_SITE,
        ambient: cabinet?.ambient ?? null,
        nominalVolts: supply?.nominalVolts ?? null,
        measuredVolts: supply?.measurements[0]?.volts ?? null,
        hertz: supply?.frequency ?? null,
      },
    });
  }, [view.data, site.data, position.data, motors.data, vocabulary.data, dictionary.data]);
  return {
    ground,
    title: view.data?.title ?? '',
    error: [view, position, site, motors, vocabulary, dictionary].find(({ error }) => error)?.error ?? null,
  };
}
