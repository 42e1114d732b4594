export const openText = (open: number): string => (open === 0 ? 'nothing open' : `${open} open`);
