import { createHash } from 'node:crypto';

/** What is kept of a token: whoever reads the database cannot sign in with it. */
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
