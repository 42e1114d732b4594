import { createHash } from 'node:crypto';

/** Over a wiring and the hash of the revision before it: a chain in which none can be taken out or changed. */
export const wiringHash = (content: string, before: string | undefined): string =>
  `sha256:${createHash('sha256')
    .update(`${before ?? ''}\n${content}`)
    .digest('hex')}`;
