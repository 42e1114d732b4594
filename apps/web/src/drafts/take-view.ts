// A fresh answer of the server takes the place of what is shown; one that was asked for before it and comes later does not.

import type { SettingsDraftView } from '@drive-keep/api';
import { queryClient } from '../api/queries.ts';

export async function takeView(view: SettingsDraftView): Promise<void> {
  const queryKey = [`drafts/${view.id}`];
  await queryClient.cancelQueries({ queryKey });
  queryClient.setQueryData(queryKey, view);
}
