// What the columns of a maker's list hold, by their headings in English, German, French, Spanish, Italian and Dutch. A heading may
// also tell the unit (`Default [Hz]`), and that numbers are hexadecimal.

import { isKnownUnit, normalUnit } from '../values/index.ts';
import type { AccessQuestion } from './list-access.ts';

/** What a column of the user's table may hold. `range` is minimum, maximum and often the unit in one cell. */
export const COLUMN_USES = [
  'code',
  'name',
  'description',
  'other_names',
  'menu',
  'unit',
  'resolution',
  'range',
  'minimum',
  'maximum',
  'default',
  'options',
  'bits',
  'access',
  'running',
  'meaning',
  'register',
] as const;
export type ColumnUse = (typeof COLUMN_USES)[number];

const HEADINGS: readonly (readonly [ColumnUse, RegExp])[] = [
  [
    'code',
    /^(code|par(a(m(eter|[eè]tre|etro)?)?)?\.?\s*[-:]?\s*(no|nr|number|code|id|nummer|num[eé]ro|n[uú]mero|codice)?\.?|no\.?|nr\.?|n°|nº|number|nummer|num[eé]ro|n[uú]mero|numero|id|index|address code|c[oó]digo|codice|(parameter)?(nummer|code|nr\.?)|kennung)$/,
  ],
  [
    'running',
    /((change|write|set|edit|adjust).*(while|when|during|in).*(run|operation)|online change|(änderbar|änderung|verstellbar).*(betrieb|lauf)|modif.*(en|in) (marche|marcha|marcia)|wijzig.*(bedrijf|lopend))/,
  ],
  [
    'access',
    /(access|^r ?\/ ?w$|read|write|change|attribute|zugriff|schreib|acc[eè]s|acceso|accesso|toegang|lectura|lettura|[eé]criture)/,
  ],
  ['meaning', /^meaning$/],
  [
    'description',
    /(description|explanation|comment|remark|note|help|meaning of|beschreibung|erläuterung|bemerkung|hinweis|remarque|descripci[oó]n|observaci|descrizione|omschrijving|toelichting|opmerking)/,
  ],
  ['other_names', /(alias|other name|also called|synonym|short name|kurzname)/],
  [
    'menu',
    /(menu|men[uü]|group|section|chapter|category|gruppe|abschnitt|kapitel|groupe|grupo|gruppo|groep|cap[ií]tulo|capitolo|hoofdstuk)/,
  ],
  ['unit', /^((eng(ineering)?\.?\s*)?units?|einheit|unit[eé]s?|unidad(es)?|unit[aà]( di misura)?|eenheid)$/],
  [
    'resolution',
    /(resolution|^steps?( size)?$|increment|^scal(e|ing)|multiplier|\bfactor\b|auflösung|schritt|skalierung|\bfaktor\b|r[eé]solution|^pas$|[eé]chelle|resoluci[oó]n|^paso|escala|risoluzione|^passo|resolutie|stapgrootte|^stap$|schaal)/,
  ],
  [
    'range',
    /(range|min\.?\s*(\.{2,3}|…|\/|to|-|–)\s*max|limits?|^values?$|bereich|wertebereich|grenzen|plage|gamme|rango|margen|gamma|campo|intervallo|bereik|grenzen)/,
  ],
  [
    'minimum',
    /^(min\b|minimum|least|low(er)?\b|kleinst|untere?r?\b|m[ií]nimo|minimo|valeur min|inf[eé]rieure|onder)/,
  ],
  [
    'maximum',
    /^(max\b|maximum|greatest|high(er)?\b|upper\b|größte?r?|obere?r?\b|m[aá]ximo|massimo|valeur max|sup[eé]rieure|boven)/,
  ],
  [
    'default',
    /(default|factory|initial|preset value|werk(s|seinstellung)|vorgabe|voreinstellung|standard(wert)?|grundeinstellung|usine|d[eé]faut|f[aá]brica|defecto|fabbrica|predefinit|fabriek|standaard)/,
  ],
  ['bits', /(\bbits?\b)/],
  [
    'options',
    /(options?|choices?|selections?|enum|setting values?|auswahl|optionen|einstellungen|choix|s[eé]lection|opciones|selecci[oó]n|opzioni|scelta|keuze|opties)/,
  ],
  ['register', /(register|modbus|address|adresse|registre|registro|indirizzo|direcci[oó]n|adres)/],
  [
    'name',
    /^(name|parameter name|parameter|title|designation|label|function|bezeichnung|benennung|funktion|name des parameters|parametername|d[eé]signation|libell[eé]|nom|fonction|nombre|denominaci[oó]n|funci[oó]n|nome|denominazione|funzione|naam|benaming|functie)$/,
  ],
];

export interface HeadingTold {
  readonly use: ColumnUse | null;
  /** The unit that the heading tells for its column. */
  readonly unit: string;
  readonly hex: boolean;
  readonly question: AccessQuestion;
}

/** A unit behind a name or heading: `Default [Hz]`, `Ramp up (s)`, `Speed in rpm`, `Current, A`. */
export function unitBehind(text: string): { readonly rest: string; readonly unit: string } {
  const [, rest = '', inside = ''] =
    /^(.*\S)\s*[[(]\s*([^[\]()]+)\s*[\])]$/.exec(text) ??
    /^(.*\S)(?:\s+in\s+|\s*,\s*|\s*\/\s*)(\S+)$/.exec(text) ??
    [];
  return inside !== '' && isKnownUnit(inside) ? { rest, unit: normalUnit(inside) } : { rest: text, unit: '' };
}

const FLAT = /[\s_]+/g;

/** What a heading says of its column; `use` is nothing where it says nothing that is known. */
export function headingTold(heading: string): HeadingTold {
  const hex = /\bhex/i.test(heading);
  const { rest, unit } = unitBehind(heading.trim());
  const words = rest
    .replace(/[[(]?\bhex(adecimal)?\b\.?[\])]?/i, '')
    .replace(FLAT, ' ')
    .trim()
    .toLowerCase();
  const use = HEADINGS.find(([, pattern]) => pattern.test(words))?.[0] ?? null;
  return { use, unit, hex, question: questionOf(words) };
}

function questionOf(words: string): AccessQuestion {
  if (/(while|during|in operation|running|betrieb|marche|marcha|marcia|bedrijf)/.test(words))
    return 'running';
  if (/(read[- ]?only|nur lesen|lecture seule|solo lectura|sola lettura|alleen lezen)/.test(words))
    return 'read-only';
  return /(writ|schreibbar|änderbar|modifiable|modificable|modificabile|wijzigbaar)/.test(words) &&
    !/read|lesen/.test(words)
    ? 'writable'
    : 'access';
}
