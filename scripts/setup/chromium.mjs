// Chromium for tests of the interface: from Debian's packages, as test tools cannot download their own here.

import { existsSync } from 'node:fs';
import { installDebian } from './debian.mjs';
import { PlainError } from './say.mjs';

const PLACES = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

export async function ensureChromium() {
  const found = () => process.env.CHROMIUM ?? PLACES.find((place) => existsSync(place));
  if (!found()) await installDebian('chromium', 'Chromium');
  const place = found();
  if (!place)
    throw new PlainError('Chromium was installed, but is nowhere to be found. Set CHROMIUM to its path.');
  return place;
}
