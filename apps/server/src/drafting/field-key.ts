// What may name a field of a sheet of first settings, and how much may be typed into it.

export const LONGEST_TEXT = 300;
export const MOST_FIELDS = 500;
const LONGEST_KEY = 120;
const KEY = /^(ask|plate|load|supply|set|code|terminal|device|note)\.[\w.:\-/ ]+$/;

export const isFieldKey = (key: string): boolean => key.length <= LONGEST_KEY && KEY.test(key);
