// Every sentence that tells a person what is wrong, by its code: what it is and what to do. Whoever finds something gives
// the facts, as they are shown; nobody else makes sentences of findings.

import { showRegister } from '../values/index.ts';
import { CHECK_TEXTS } from './check-texts.ts';

/** A code and what its sentence needs; the catalogue below knows both. */
export interface Words {
  readonly code: string;
  readonly facts: object;
}

/** Long lists are cut after so many codes. */
const MOST_CODES = 8;

function shortened(codes: readonly string[]): string {
  const rest = codes.length - MOST_CODES;
  return codes.slice(0, MOST_CODES).join(', ') + (rest > 0 ? ` and ${rest} more` : '');
}

/** The files of a model. */
const MODEL_FILES = {
  'yaml-too-deep': () =>
    'From here on groups stand deeper in each other than in any model. Is this the right file? It was not read.',
  'yaml-broken': ({ why }: { why: string }) => `This is not YAML: ${why}.`,
  'fact-missing': ({ path, wanted }: { path: string; wanted: string }) => `"${path}" must be ${wanted}.`,
  'table-empty': () => 'The table is empty. The first line names the columns.',
  'table-surplus': ({ text }: { text: string }) =>
    `"${text}" stands under no heading: the row has more cells than the first line. A cell with a comma in it needs quotation marks.`,
  'column-missing': ({ column }: { column: string }) =>
    `The column "${column}" is missing. Add it to the first line.`,
  'column-twice': ({ column }: { column: string }) =>
    `The column "${column}" is there twice. Keep one of them.`,
  'cell-empty': ({ column }: { column: string }) => `"${column}" is empty and must not be.`,
  'cell-unknown': ({ column, text, allowed }: { column: string; text: string; allowed: string }) =>
    `"${text}" is not known as ${column}; use one of: ${allowed}.`,
  'cell-unreadable': ({ column, text, wanted }: { column: string; text: string; wanted: string }) =>
    `"${text}" cannot be read as ${column}; write ${wanted}.`,
  'code-twice': ({ text, first }: { text: string; first: number }) =>
    `The code ${text} is already on line ${first}. Keep one of them.`,
  'fault-twice': ({ number, first }: { number: string; first: number }) =>
    `The fault ${number} is already on line ${first}. Keep one of them.`,
  'meaning-twice': ({ text, first }: { text: string; first: number }) =>
    `The meaning ${text} is already on line ${first}. Keep one of them.`,
  'code-unknown': ({ text }: { text: string }) =>
    `There is no parameter ${text} in this dictionary. Check its spelling.`,
  'effect-other-step': ({ when, text }: { when: string; text: string }) =>
    `${when} cannot narrow ${text}: they are not numbers of the same unit and resolution.`,
  'effect-region-unknown': ({ text }: { text: string }) =>
    `There is no region "${text}" in this file. Check its spelling.`,
  'point-unknown': ({ text, known }: { text: string; known: string }) =>
    `"${text}" is not known here. It can be: ${known}.`,
  'fact-unknown': ({ fact, outfit }: { fact: string; outfit: string }) =>
    `The fact "${fact}" is missing, or does not fit the resolution, for ${outfit}. State it in model.yaml.`,
  'minimum-above-maximum': ({ outfit }: { outfit: string }) =>
    `The minimum value is above the maximum for ${outfit}. Exchange or correct them.`,
  'default-outside': ({ outfit }: { outfit: string }) =>
    `The default is outside the range for ${outfit}. Correct the default or the range.`,
  'register-twice': ({ address, first }: { address: number; first: number }) =>
    `Register ${showRegister(address)} already belongs to line ${first}. Correct one address.`,
  'command-register-written': ({ address }: { address: number }) =>
    `Register ${showRegister(address)} is the command word in model.yaml: to write it would run the unit. Make the access "read", or correct one address.`,
  'input-register-written': ({ text }: { text: string }) =>
    `"${text}" is an input register, and those are only read. Make the access "read", or name the holding register.`,
  'register-too-narrow': ({ address }: { address: number }) =>
    `The range does not fit the register at ${showRegister(address)}; give it 32 bits or a sign.`,
};

/** What a dictionary does not tell, and what does not work without it. */
const GAPS = {
  'gap-ratings': () =>
    'No rating has facts: currents are not checked against the unit, and defaults cannot depend on its size.',
  'gap-line': () =>
    'No line: units are read off at the keypad or come in as files. Nothing is read or written by itself.',
  'gap-serial': () =>
    'No register of the serial number: backups cannot tell which unit answered, and nothing is written over the line.',
  'gap-model-number': () =>
    'No register of a model number: units of this model are not found by searching a line, and another model at its address is not noticed.',
  'gap-firmware': () => 'No register of the firmware: backups take over what the register of the plant says.',
  'gap-status': () =>
    'No status word with a bit for running: nothing is written over the line, as nobody can see that the unit stands.',
  'gap-fault': () => 'No registers of faults: the live view shows none.',
  'gap-save': () =>
    'No permanent save: units are taken for such that keep every write at once. If they do not, written settings are gone after a power cycle.',
  'gap-restart': () =>
    'No restart over the line: that settings stick is proved by switching the supply off and on, by hand.',
  'gap-conventions': () =>
    'No conventions: nobody knows what ramps and speeds count to, and values are not carried over to other models by them.',
  'gap-behaviour': () =>
    'No behaviour: nobody can tell what the drive does with its contacts, and no dry run and no proof of same behaviour can be made.',
  'gap-keypad': () => 'No keypad: key-in sheets come without key presses and in the order of the menus.',
  'gap-reset': () => 'No procedure for a reset: reset plans cannot be made.',
  'gap-effects': () =>
    'No effects: a write plan does not know which writes put others back, and finds out by reading back alone.',
  'gap-terminals': () => 'No terminals: there is no terminal chart, and wiring cannot be checked.',
  'gap-faults': () =>
    'No faults: a fault is told by its number alone, without what it means and what to look at.',
  'gap-registers': () => 'No parameter has a register: a unit on a line answers, but nothing of it is read.',
  'gap-some-registers': ({ count, of }: { count: number; of: number }) =>
    `${count} of ${of} settings have no register: they are neither read nor written over the line.`,
  'gap-meanings': ({ count, of }: { count: number; of: number }) =>
    `${count} of ${of} settings have no meaning: they are not found under the words of other models, nor compared across models.`,
};

/** A maker's list or EDS on its way to a model of the plant's own. */
const OWN_MODELS = {
  'list-broken': () => 'The file cannot be read as a table. Save it again as CSV, XLSX or JSON.',
  'quotation-open': () =>
    'A quotation mark is opened on this line and not closed where its cell ends. Close it, or take it out.',
  'json-odd': ({ text }: { text: string }) =>
    `${text}. A list in JSON is one list of objects with plain values.`,
  'cell-not-understood': ({ text, wanted, note }: { text: string; wanted: string; note?: string }) =>
    [
      `"${text}" is not understood from end to end. Wanted is ${wanted}.`,
      note === undefined ? '' : `The list notes: "${note}".`,
    ]
      .filter(Boolean)
      .join(' '),
  'access-asked': ({ text }: { text: string }) =>
    text === ''
      ? 'Nothing says who may write it. Say what an empty cell means.'
      : `"${text}" is not known as an access. Say what it means.`,
  'code-is-number': ({ text }: { text: string }) =>
    `The file keeps the code ${text} as a number: whether it was ${text} or ${text}0 cannot be told. Format the column as text and enter the code again.`,
  'code-is-run': ({ text }: { text: string }) =>
    `"${text}" stands for several parameters. Give each a line of its own.`,
  'codes-cut': ({ width }: { width: number }) =>
    `Some codes have ${width} digits with zeros in front, others are kept as numbers without them. Format the column as text and enter the codes again.`,
  'columns-disagree': ({ text, other }: { text: string; other: string }) =>
    `"${text}" and "${other}" of the same line say different things. Correct one of them.`,
  'range-and-options-differ': ({ range, options }: { range: string; options: string }) =>
    `The range "${range}" and the options "${options}" do not go together. Correct one of them.`,
  'default-no-option': ({ text }: { text: string }) =>
    `The default "${text}" is none of the options. Write the number of one, or "?".`,
  'cell-not-used': ({ text }: { text: string }) =>
    `"${text}" has no place in a parameter of this kind, and is not used.`,
  'scale-unclear': ({ text }: { text: string }) =>
    `A scaling of "${text}" can be ${text} steps for one unit, or ${text} units a step. Write the smallest step, such as 0.1.`,
  'special-values': ({ text }: { text: string }) =>
    `A number of which some values have a name: "${text}" goes into its description.`,
  'range-in-one-unit': ({ text, read }: { text: string; read: string }) => `"${text}" is read as ${read}.`,
  'number-in-other-unit': ({ text, read }: { text: string; read: string }) => `"${text}" is read as ${read}.`,
  'unit-unknown': ({ text }: { text: string }) =>
    `The unit "${text}" is not known: it is taken as it is, and nothing is converted by it.`,
  'mark-unclear': () =>
    'Whether a comma or a point stands before the decimals cannot be told from the numbers. Choose it.',
  'columns-not-used': ({ columns }: { columns: readonly string[] }) =>
    `Not used: ${columns.map((column) => `"${column}"`).join(', ')}.`,
  'heading-twice': ({ text }: { text: string }) =>
    `"${text}" has a heading that is there before. Say what it holds, or leave it unused.`,
  'column-hidden': ({ text }: { text: string }) =>
    `The column "${text}" is hidden in the spreadsheet; it was read.`,
  'row-hidden': () => 'This row is hidden in the spreadsheet; it was read.',
  'sheets-not-read': ({ read, sheets }: { read: string; sheets: readonly string[] }) =>
    `The sheet "${read}" was read. Not read: ${sheets.map((sheet) => `"${sheet}"`).join(', ')}.`,
  'row-is-group': ({ text }: { text: string }) => `"${text}" is taken as the menu of the lines below.`,
  'row-is-note': ({ text }: { text: string }) => `"${text}" is taken as a note, and left out.`,
  'row-is-heading': () => 'The headings again: left out.',
  'row-goes-on': () => 'This line goes on with the one above.',
  'no-access-told': () =>
    'No column tells the access: all are taken as written while the drive is stopped. Parameters that can only be read have to be marked.',
  'defaults-not-told': ({ count }: { count: number }) =>
    `${count} ${count === 1 ? 'default is' : 'defaults are'} not told: they are kept as unknown, and comparisons with defaults say so.`,
  'ranges-not-told': ({ count }: { count: number }) =>
    `${count} ${count === 1 ? 'range is' : 'ranges are'} not told: they are kept as unknown, and values are held against the register alone.`,
  'list-too-long': ({ rows, most }: { rows: number; most: number }) =>
    `The file has ${rows} rows; a model has at most ${most} parameters.`,
  'columns-not-said': () => 'Say which column holds the code and which the name.',
  'row-without-code': () => 'This line has no code. Give it one, or leave the line out.',
  'model-not-named': ({ missing }: { missing: readonly string[] }) => `Say ${missing.join(' and ')}.`,
  'name-without-letter': () => 'Maker and name need a letter or a digit.',
  'line-passed-over': () => 'This line is neither a section nor "Key=Value" and is passed over.',
  'not-an-object-file': () => 'This is no EDS or DCF: it needs [DeviceInfo] and a list of objects (CiA 306).',
  'section-twice': ({ text }: { text: string }) => `The section [${text}] is there twice. Keep one of them.`,
  'key-twice': ({ key, first, value }: { key: string; first: string; value: string }) =>
    `${key} is there twice, as "${first}" and as "${value}". Keep one of them.`,
  'object-beyond-type': ({ object, text }: { object: string; text: string }) =>
    `${object}: "${text}" does not fit the data type of the object.`,
  'object-without-section': ({ text }: { text: string }) =>
    `The object ${text} is listed but has no section.`,
  'too-many-objects': ({ most }: { most: number }) =>
    `There are more than ${most} objects. Is this the right file?`,
  'objects-left-out': ({ objects, why }: { objects: readonly string[]; why: string }) =>
    `${objects.length} ${objects.length === 1 ? 'object is' : 'objects are'} left out (${objects.join(', ')}): ${why}.`,
  'value-depends-on-node': (facts: { object: string; text: string; value: number; node: number }) =>
    `${facts.object}: "${facts.text}" depends on the node; ${facts.value} holds for node ${facts.node}.`,
  'object-value-unreadable': ({ object, text }: { object: string; text: string }) =>
    `${object}: "${text}" cannot be read as a number; write 12, 0x0C or $NODEID+12.`,
};

/** A file with the set of one unit. `text` is the code of the parameter as the file has it. */
const SET_FILES = {
  'file-empty': () => 'The file is empty. Export a set to see what it should hold.',
  'file-broken': ({ wanted }: { wanted: string }) =>
    `The file cannot be read as ${wanted} from here on. Export it again from where it came.`,
  'format-unknown': ({ found }: { found: string }) =>
    `This is not a parameter set that can be read (found "${found}"). Use a JSON or CSV file of Drive Keep.`,
  'set-column-missing': ({ column }: { column: string }) =>
    `The column "${column}" is missing. A set needs "code" and "value" or "raw".`,
  'other-dictionary': ({ found, wanted }: { found: string; wanted: string }) =>
    `The file holds a set of ${found}; this position has ${wanted}. Choose the right position.`,
  'other-unit': ({ found, wanted }: { found: number; wanted: number }) =>
    `The file was read from serial number ${found}; serial number ${wanted} sits here.`,
  'code-cut': ({ text, code }: { text: string; code: string }) =>
    `The file keeps the code ${text} as a number, and ${code} looks the same. Format the column as text and enter the code again.`,
  'unreadable-and-value': ({ text, value }: { text: string; value: string }) =>
    `${text} is told as unreadable and as ${value}. Take one of them out.`,
  'text-differs': ({ text, found, says }: { text: string; found: string; says: string }) =>
    `${text}: the text "${found}" and the value say different things; the value is "${says}". Correct one of them.`,
  'name-differs': ({ text, name, wanted }: { text: string; name: string; wanted: string }) =>
    `${text} is "${wanted}"; the file calls it "${name}". Correct the code or the name.`,
  'names-other': ({ count }: { count: number }) =>
    `${count === 1 ? 'One name is not that' : `${count} names are not those`} of this model, and ${count === 1 ? 'was' : 'were'} not held against the codes.`,
  'set-columns-not-used': ({ columns }: { columns: readonly string[] }) =>
    `Not used: ${columns.map((column) => `"${column}"`).join(', ')}. A set has the columns dictionary, code, name, value, unit, text, raw and unreadable.`,
  'carried-over': ({ from, to }: { from: string; to: string }) =>
    `The file is of ${from}; its values were carried over to ${to}.`,
  'carried-without': ({ codes, to }: { codes: readonly string[]; to: string }) =>
    `${to} has no place for ${codes.join(', ')}: not carried over.`,
  'set-partial': ({ found, of }: { found: number; of: number }) =>
    `The file holds ${found} of ${of} settings: that is a part, and no backup. Its values can be written; nothing is kept as what the unit holds.`,
  'device-differs': ({ which, found, wanted }: { which: string; found: string; wanted: string }) =>
    `The ${which} number of the file is ${found}; that of the model is ${wanted}. Choose the right file or position.`,
  'product-differs': ({ found, wanted }: { found: string; wanted: string }) =>
    `The file is of "${found}"; this position has a ${wanted}. Choose the right file or position.`,
  'code-missing': () => 'The code is empty. Every line needs the code of its parameter.',
  'code-is-date': ({ text }: { text: string }) =>
    `"${text}" is a date: a spreadsheet program has changed a code such as 4/12. Format the column as text and enter the code again.`,
  'value-is-date': ({ text, value }: { text: string; value: string }) =>
    `${text}: "${value}" is a date: a spreadsheet program has changed the value. Format the column as text and enter it again.`,
  'unit-converted': (facts: { text: string; from: string; to: string; exact: boolean }) =>
    `${facts.text}: ${facts.from} was taken as ${facts.to}${facts.exact ? '' : ', rounded to the resolution'}.`,
  'unit-differs': ({ text, found, wanted }: { text: string; found: string; wanted: string }) =>
    `${text}: the value is in ${found}, which cannot be converted to ${wanted || 'a number without unit'}. Give it in that unit.`,
  'not-of-the-model': ({ text, model }: { text: string; model: string }) =>
    `${text} is not a code of ${model}. Check its spelling, or the model of the file.`,
  'line-twice': ({ text }: { text: string }) => `${text} is there twice. Remove one of the lines.`,
  formula: ({ column }: { column: string }) =>
    `The cell "${column}" holds a formula. Put the plain value there.`,
  'value-missing': ({ text }: { text: string }) => `${text} has no value. Give one, or take the line out.`,
  'value-unreadable': ({ text, why }: { text: string; why: Words }) => `${text}: ${describe(why)}`,
  'raw-unreadable': ({ text }: { text: string }) => `${text}: the raw value is not a whole number.`,
  'reason-unknown': ({ text }: { text: string }) => `"${text}" is no reason for an unreadable parameter.`,
  'value-and-raw-differ': (facts: { text: string; value: string; fromRaw: string }) =>
    `${facts.text}: value ${facts.value} and raw value (${facts.fromRaw}) contradict each other. Correct one, or empty "raw".`,
  'out-of-range': ({ text, why }: { text: string; why: Words }) => `${text}: ${describe(why)}`,
  'parameters-missing': ({ codes }: { codes: readonly string[] }) =>
    `${codes.length} parameters are missing and stay missing: ${shortened(codes)}.`,
  'hash-differs': () => 'The content was changed after the file was written: its hash no longer fits.',
};

/** A value as somebody typed it. */
const TYPED_VALUES = {
  'has-a-comma': ({ text }: { text: string }) => `"${text}" has a comma. Write decimals with a point.`,
  'not-a-number': ({ text }: { text: string }) => `"${text}" is not a number.`,
  'between-steps': ({ text, step }: { text: string; step: string }) =>
    `${text} lies between two steps; the resolution is ${step}.`,
  'not-an-option': ({ text }: { text: string }) => `"${text}" is not an option.`,
  'not-bits': ({ text }: { text: string }) => `"${text}" is not a word of bits. Write it as 0b0101.`,
};

/** The plate of a motor. */
const PLATES = {
  'plate-number': ({ text }: { text: string }) =>
    `"${text}" is no number. Write it as on the plate, with or without its unit.`,
  'plate-unit': ({ text, unit }: { text: string; unit: string }) =>
    unit === ''
      ? `"${text}" has a unit; this is a bare number.`
      : `"${text}" is not in ${unit} or a unit like it.`,
  'plate-not-positive': ({ text }: { text: string }) =>
    `"${text}" is not above zero. Leave the field empty where the plate does not tell it.`,
  'plate-choice': ({ text, known }: { text: string; known: readonly string[] }) =>
    `"${text}" is not one of ${known.join(', ')}.`,
  'plate-without-rating': () => 'The plate has no rating: tell at least its power or current.',
  'ratings-of-one-supply': () => 'Two ratings are for the same supply. Put them in one line.',
};

/** Why a parameter cannot hold a value. Values are as shown, with their units. */
const VALUES = {
  'no-such-option': ({ raw }: { raw: number }) => `there is no option ${raw}.`,
  'no-such-bit': () => 'bits are set that have no meaning.',
  'below-minimum': ({ value, limit }: { value: string; limit: string }) =>
    `${value} is below the minimum value, ${limit}.`,
  'above-maximum': ({ value, limit }: { value: string; limit: string }) =>
    `${value} is above the maximum value, ${limit}.`,
};

/** Why a parameter cannot be written. */
const WRITES = {
  'no-parameter': ({ code, model }: { code: string; model: string }) =>
    `${code} is not a parameter of ${model}.`,
  'read-only': ({ code }: { code: string }) => `${code} can only be read.`,
  'no-register': ({ code }: { code: string }) =>
    `${code} cannot be written over the line; set it at the keypad.`,
  'nothing-to-write': ({ code }: { code: string }) => `${code} has no value on the wanted side.`,
  trigger: ({ code }: { code: string }) =>
    `${code} starts a reset when it is written; it is no setting. Plan a reset instead.`,
  'own-address': ({ code }: { code: string }) =>
    `${code} is the address by which this unit is reached; set it at the keypad and change it in the register.`,
  locked: ({ code, by }: { code: string; by: string }) => `${code} is locked by ${by}.`,
  blocked: ({ code, by }: { code: string; by: string }) =>
    `${code} cannot be written while ${by} holds the value that is wanted of it.`,
  circle: ({ code }: { code: string }) =>
    `${code} is put back by another write of this plan each time; set it at the keypad.`,
  'cannot-hold': ({ code, why }: { code: string; why: Words }) => `${code}: ${describe(why)}`,
};

/** The catalogue: a sentence for each code, from the facts that it needs. */
/** The field wiring of a position. */
const WIRING = {
  'wiring-no-chart': () =>
    'This model has no terminal chart: the wiring can be kept, and nothing checks it. Complete the chart under Models.',
  'wiring-device-name': () => 'A device needs a name without a colon, as on the drawing: S2.',
  'wiring-device-twice': ({ name }: { name: string }) =>
    `The device ${name} is there twice. Give one of them another name.`,
  'wiring-no-terminal': ({ terminal }: { terminal: string }) =>
    `The drive has no terminal ${terminal}. Is it a connection of a device? Then write S2:13.`,
  'wiring-no-device': ({ name }: { name: string }) => `No device is called ${name}. Add it to the devices.`,
  'wiring-no-connection': ({
    name,
    connection,
    known,
  }: {
    name: string;
    connection: string;
    known: string;
  }) => `${name} has no connection ${connection}; it has ${known}.`,
  'wiring-same-ends': ({ end }: { end: string }) => `Both ends of the wire are at ${end}.`,
  'wiring-number-twice': ({ number, first }: { number: string; first: number }) =>
    `Wire ${number} is already row ${first}, and the two do not meet. One of the numbers is another.`,
  'setting-table-heading': ({ heading, model, keys }: { heading: string; model: string; keys: string }) =>
    `"${heading}" is neither a code or meaning of the ${model} nor one of the keys ${keys}. Correct the heading.`,
  'setting-table-no-key': ({ keys }: { keys: string }) =>
    `No column says which position a row holds for. Head at least one by ${keys}.`,
  'setting-table-no-value': ({ model }: { model: string }) =>
    `No column holds values. Head at least one by a code or a meaning of the ${model}.`,
  'setting-table-no-row': () => 'The table has no row under its headings.',
  'setting-table-number': ({ column, text }: { column: string; text: string }) =>
    `"${text}" under ${column} is no number. Write the number alone, with a decimal point.`,
  'setting-table-keyless': () =>
    'The row has no key: it would hold for every position. Fill at least one key.',
  'setting-table-value': ({ code, text }: { code: string; text: string }) =>
    `"${text}" is no value of ${code}. Write it as the keypad shows it, without its unit.`,
  'wiring-no-place': ({ name, place }: { name: string; place: string }) =>
    `The board has no switch ${name} with a place ${place}.`,
  'wiring-no-arrangement': ({ name }: { name: string }) =>
    `The model has no arrangement "${name}". Choose one of its chart.`,
  'wiring-joined': ({ one, other }: { one: string; other: string }) =>
    `${one} and ${other} both drive one conductor. Take one of them off.`,
  'wiring-short': ({ supply, common }: { supply: string; common: string }) =>
    `The supply ${supply} is joined to its zero ${common}: a short circuit.`,
  'wiring-sinks': ({ input, common }: { input: string; common: string }) =>
    `The contact of input ${input} closes to the zero ${common}, and the inputs are sourcing: it never acts. Wire it to the supply, or choose a sinking arrangement.`,
  'wiring-sources': ({ input, supply }: { input: string; supply: string }) =>
    `The contact of input ${input} closes to the supply ${supply}, and the inputs are sinking: it never acts. Wire it to the zero, or choose a sourcing arrangement.`,
  'wiring-no-common': ({ input }: { input: string }) =>
    `Input ${input} is wired to something that leads to no supply and no common: it never acts.`,
  'wiring-open-end': ({ name, connection }: { name: string; connection: string }) =>
    `${name} has nothing at ${connection}: no current can flow through it. Wire it to its other side, or to the supply of the cabinet.`,
  'wiring-overload': ({ supply, taken, most }: { supply: string; taken: number; most: number }) =>
    `With everything on, ${taken} mA hang on supply ${supply}; it carries ${most} mA. Feed a part of it from elsewhere.`,
  'wiring-contact-overload': ({
    terminal,
    name,
    load,
    most,
  }: {
    terminal: string;
    name: string;
    load: string;
    most: string;
  }) => `${name} takes ${load}; terminal ${terminal} switches ${most} at most. Put a relay between them.`,
  'wiring-signal-switch': ({
    name,
    signal,
    terminal,
    board,
    place,
  }: {
    name: string;
    signal: string;
    terminal: string;
    board: string;
    place: string;
  }) =>
    `${name} gives a ${signal} to terminal ${terminal}, and switch ${board} stands at ${place}. Set the switch, or another signal.`,
  'wiring-safe-open': ({ terminal }: { terminal: string }) =>
    `The safety input ${terminal} is neither wired nor linked: the drive will not run.`,
  'wiring-strange-column': ({ column }: { column: string }) =>
    `The column "${column}" is not one of a wiring. Take it out, or give it the right name.`,
  'wiring-strange-cell': ({ column, text, row }: { column: string; text: string; row: string }) =>
    `"${text}" stands under ${column}, where a row of ${row === '' ? 'no kind' : row} has nothing.`,
};

export const TEXTS = {
  ...CHECK_TEXTS,
  ...MODEL_FILES,
  ...GAPS,
  ...OWN_MODELS,
  ...SET_FILES,
  ...TYPED_VALUES,
  ...PLATES,
  ...VALUES,
  ...WRITES,
  ...WIRING,
};

/** The sentence of what was found. An unknown code is a mistake of the program. */
export function describe({ code, facts }: Words): string {
  const text = (TEXTS as Readonly<Record<string, ((facts: never) => string) | undefined>>)[code];
  if (!text) throw new Error(`no text for ${code}`);
  return text(facts as never);
}
