// Dates on papers: as on the screens, in the plant's own time.

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const two = (number: number): string => String(number).padStart(2, '0');

/** 24 Nov 2026 14:05 */
export const paperTime = (time: Date): string =>
  `${time.getDate()} ${MONTHS[time.getMonth()] ?? ''} ${time.getFullYear()} ${two(time.getHours())}:${two(time.getMinutes())}`;
