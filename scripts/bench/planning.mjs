// Planning writes between two sets of five hundred parameters, and what the order of a key-in sheet saves on the shipped
// models: from their defaults to a set in which a number of settings differ.

import { factsOf, isNoise, limitsOf } from '@drive-keep/core/dictionary';
import { orderForKeys, planWrites } from '@drive-keep/core/plans';
import { defaultSet } from '@drive-keep/core/sets';
import { loadModels } from '@drive-keep/plant-sim';
import { modelsFolder } from '../setup/folders.mjs';
import { largeDictionary, madeUpSet } from './made-up.mjs';
import { medianMs, showMs } from './timing.mjs';

const PARAMETERS = 500;
/** Settings changed on a drive that was commissioned. */
const CHANGED = 25;

export function planningBench() {
  const models = [...loadModels(modelsFolder).values()].filter(({ keypad }) => keypad !== null);
  return [planningRow(), ...models.map(keysRow)];
}

function planningRow() {
  const shipped = loadModels(modelsFolder).get('halvern-hn64@1');
  const dictionary = largeDictionary(PARAMETERS);
  // The effects of the shipped model between the parameters that stand for its own.
  const settings = shipped.parameters.filter((each) => !isNoise(each));
  const codeOf = (code) => `P${String(settings.findIndex((each) => each.code === code)).padStart(3, '0')}`;
  const effects = shipped.effects.map((effect) => ({
    ...effect,
    when: codeOf(effect.when),
    ...(effect.codes ? { codes: effect.codes.map(codeOf) } : {}),
    ...(effect.values ? { values: effect.values.map(({ code, raw }) => ({ code: codeOf(code), raw })) } : {}),
  }));
  const model = { ...dictionary, effects };
  const facts = factsOf(shipped, { rating: 'HN64-15', region: '50-hz' });
  const [current, target] = [madeUpSet(model), madeUpSet(model, 3)];
  const { steps } = planWrites(model, facts, current, target.readings);
  return {
    what: `Planning between two sets of ${PARAMETERS} parameters, ${steps.length} writes, with the way back`,
    measured: showMs(medianMs(() => planWrites(model, facts, current, target.readings), 60)),
    wanted: 'under 20 ms',
  };
}

function keysRow(model) {
  const outfit = { rating: model.ratings[0].id, region: model.regions[0].id };
  const facts = factsOf(model, outfit);
  const current = defaultSet(model, outfit);
  const settings = model.parameters.filter(
    (each) => !isNoise(each) && each.access !== 'read' && !/lock|reset/i.test(each.meaning ?? ''),
  );
  const every = Math.floor(settings.length / CHANGED);
  const wanted = settings
    .filter((_, at) => at % every === 0)
    .map((each) => {
      const { form, code } = each;
      if (form.kind === 'option') return [code, form.options.at(-1).raw];
      const { minimum, maximum } = limitsOf(each, facts);
      return [code, form.kind === 'bits' ? 1 : Math.round(minimum + (maximum - minimum) / 3)];
    });
  const { steps } = planWrites(model, facts, current, new Map(wanted), 'keypad');
  const { presses, plainPresses } = orderForKeys(model, outfit, steps);
  const saved = ((1 - presses / plainPresses) * 100).toFixed(0);
  return {
    what: `Keys for ${steps.length} changes on ${model.maker} ${model.name} ${model.version}, sheet against plan`,
    measured: `${presses} against ${plainPresses} (${saved} % saved)`,
    wanted: 'for comparison',
  };
}
