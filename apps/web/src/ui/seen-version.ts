// The version that a form was filled from: it stays what it was while somebody types, so that the server can tell the later of
// two people.

import { useState } from 'react';

export function useSeenVersion(version: number, typing: boolean): number {
  const [seen, setSeen] = useState(version);
  if (!typing && seen !== version) setSeen(version);
  return typing ? seen : version;
}
