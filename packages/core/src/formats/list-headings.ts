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

const CODE =
  /^(par(a(m(eter|[eè]tre|[aá]metro|etro)?)?)?|p|function|funktions?|fonction)?\.?\s*[-:]?\s*(no|nr|n°|nº|n|#|number|code|id|nummer|num[eé]ro|n[uú]mero|codice|c[oó]digo)\.?(\s*(du|de|del)\s*param[eèaá]tro?r?e?)?$/;

/** A heading may fit several: `Parameter` is a code or a name, by what the others are. */
const HEADINGS: readonly (readonly [ColumnUse, RegExp])[] = [
  ['code', CODE],
  ['code', /^(par(am)?(eter|[eè]tre|[aá]metro|etro)?\.?|index|id|address code|kennung|n°|nº)$/],
  ['code', /^(n°|nº|num[eé]ro|n[uú]mero|nummer)\s*(du|de|del|di)?\s*par[aá]m[eè]?tr[eo]$/],
  [
    'running',
    /((chang|writ|set|edit|adjust)\w*\s.*(while|when|during|in)\b.*(run|operation)|online change|(änder|verstell)\w*.*(betrieb|lauf)|modif\w*.*(en|in) (marche|marcha|marcia)|wijzig\w*.*(bedrijf|lopend))/,
  ],
  [
    'description',
    /(description|explanation|comment|remark|^notes?$|help|meaning of|beschreibung|erläuterung|bemerkung|hinweis|remarque|descripci[oó]n|observaci|descrizione|omschrijving|toelichting|opmerking)/,
  ],
  [
    'access',
    /(access|^r ?\/ ?w$|\bread\b|\bwrit|^change|^attr|zugriff|schreib|lesen|änderbar|acc[eè]s|acceso|accesso|toegang|lectura|lecture|lettura|lezen|[eé]criture|modifi(able|cab)|wijzigbaar)/,
  ],
  ['meaning', /^meaning$/],
  ['other_names', /(alias|other name|also called|synonym|short name|kurzname)/],
  [
    'menu',
    /(menu|men[uüú]|group|section|chapter|category|gruppe|abschnitt|kapitel|groupe|grupo|gruppo|groep|cap[ií]tulo|capitolo|hoofdstuk)/,
  ],
  ['unit', /^((eng(ineering)?\.?\s*)?units?|einheit|unit[eé]s?|unidad(es)?|unit[aà]( di misura)?|eenheid)$/],
  [
    'resolution',
    /(resolution|^steps?( size)?$|increment|^scal(e|ing)|multiplier|\bfactor\b|auflösung|schritt|skalierung|\bfaktor\b|r[eé]solution|^pas$|[eé]chelle|resoluci[oó]n|^paso|escala|risoluzione|^passo|resolutie|stapgrootte|^stap$|schaal)/,
  ],
  ['range', /min\w*\.?\s*(\.{2,3}|…|\/|to|-|–|bis|à|a)\s*max/],
  [
    'minimum',
    /^(min\b|minim|m[ií]n\b|m[ií]nimo|least|low(er|est)?\b|kleinst|unter(e|er|es)?\b|untergrenze|valeur min|inf[eé]rieure|onder)/,
  ],
  [
    'maximum',
    /^(max\b|maxim|m[aá]x\b|m[aá]ximo|massimo|greatest|high(er|est)?\b|upper\b|größt|ober(e|er|es)?\b|obergrenze|valeur max|sup[eé]rieure|boven)/,
  ],
  [
    'default',
    /(default|factory|initial|preset value|werk(s|seinstellung)|vorgabe|voreinstellung|standard(wert)?|grundeinstellung|usine|d[eé]faut|f[aá]brica|defecto|fabbrica|predefinit|fabriek|standaard)/,
  ],
  [
    'range',
    /(range|limits?$|^(possible |allowed |valid |permitted )?values$|bereich|grenzen|plage|gamme|rango|margen|gamma|campo|intervallo|bereik)/,
  ],
  ['bits', /(\bbits?\b)/],
  [
    'options',
    /(options?|choices?|selections?|enum|setting values?|auswahl|optionen|einstellungen|choix|s[eé]lection|opciones|selecci[oó]n|opzioni|scelta|keuze|opties)/,
  ],
  ['register', /(register|modbus|address|adresse|registre|registro|indirizzo|direcci[oó]n|adres)/],
  [
    'name',
    /^(name|parameter ?name|parameter|par[aá]m[eè]tre|par[aá]metro|title|designation|label|function|bezeichnung|benennung|funktion|name des parameters|d[eé]signation|libell[eé]|nom|fonction|nombre|denominaci[oó]n|funci[oó]n|nome|denominazione|funzione|naam|benaming|functie)$/,
  ],
];

export interface HeadingTold {
  readonly use: ColumnUse | null;
  /** All that it could be, the likeliest first. */
  readonly uses: readonly ColumnUse[];
  /** The unit that the heading tells for its column. */
  readonly unit: string;
  readonly hex: boolean;
  readonly question: AccessQuestion;
}

/** A unit behind a name or heading: `Default [Hz]`, `Ramp up (s)`, `Speed in rpm`, `Current, A`. */
export function unitBehind(text: string): { readonly rest: string; readonly unit: string } {
  const [, rest = '', inside = ''] =
    /^(.*\S)\s*[[(]\s*([^[\]()]+)\s*[\])]$/.exec(text) ??
    /^(.{2,}\S)(?:\s+in\s+|\s*,\s*|\s*\/\s*)(\S+)$/.exec(text) ??
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
  const uses = [...new Set(HEADINGS.flatMap(([use, pattern]) => (pattern.test(words) ? [use] : [])))];
  return { use: uses[0] ?? null, uses, unit, hex, question: questionOf(words) };
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
