import type { KeyInSheetView } from '@drive-keep/api';
import type { Killing, Work } from '../killing.ts';
import { must } from './must.ts';

export function keyIn({ looker }: Killing): Work {
  let id = '';
  let answered = false;
  return {
    ready: async (doomed) => {
      answered = false;
      const made = await doomed.post<KeyInSheetView>('positions/PR-PB-01/key-in-sheets', {
        target: 'default',
      });
      id = must(made).id;
      return async () => {
        must(await doomed.post(`key-in-sheets/${id}/finish`));
        answered = true;
      };
    },
    untrue: async () => {
      const { state } = must(await looker.get<KeyInSheetView>(`key-in-sheets/${id}`));
      return answered && state !== 'finished' ? [`${id} was said to be finished and is ${state}`] : [];
    },
  };
}
