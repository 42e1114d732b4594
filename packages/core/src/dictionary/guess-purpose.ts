// What a parameter of a user's own model is probably for, by the words of its name and menu. A guess for sorting lists,
// never used for anything that is computed.

import type { Purpose } from './parameter.ts';

/** The first line with a matching word decides: from the special to the general. */
const WORDS: readonly (readonly [Purpose, RegExp])[] = [
  [
    'communication',
    /\b(network|bus address|baud|bit ?rate|parity|node|heartbeat|modbus|can|ethernet|fieldbus)\b/i,
  ],
  ['loop', /\b(pid|loop|proportional|integral|derivative|feedback|gain|sleep|wake)\b/i],
  [
    'protection',
    /\b(protect\w*|overload|fault|trip|alarm|warning|thermal|underload|stall|restart|watch|undervoltage|overvoltage)\b/i,
  ],
  ['io', /\b(inputs?|outputs?|analog\w*|digital|relay|terminal|filter|contact)\b/i],
  ['ramps', /\b(ramps?|accel\w*|decel\w*|limits?|minimum|maximum|skip|jump|stopp?\w*|brak\w*)\b/i],
  ['motor', /\b(motor|rated|nominal|poles?|cos|stator|rotor|inertia|nameplate|boost|slip|carrier)\b/i],
  [
    'commands',
    /\b(command|run|start|speed|set-?point|reference|preset|jog|source|direction|lock|password|region)\b/i,
  ],
];

/** By the words of name and menu; `other` where none of them tells. */
export function guessPurpose(words: string): Purpose {
  return WORDS.find(([, pattern]) => pattern.test(words))?.[0] ?? 'other';
}
