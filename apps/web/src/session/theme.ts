// Light paper or dark graphite: as the system has it, until somebody chooses.

import { create } from 'zustand';
import { persist } from 'zustand/middleware';

type Theme = 'light' | 'dark';

interface ThemeState {
  readonly chosen: Theme | null;
  readonly choose: (theme: Theme) => void;
}

export const useTheme = create<ThemeState>()(
  persist((set) => ({ chosen: null, choose: (chosen) => set({ chosen }) }), { name: 'drive-keep-theme' }),
);

const systemDark = window.matchMedia('(prefers-color-scheme: dark)');

export const shownTheme = (chosen: Theme | null): Theme => chosen ?? (systemDark.matches ? 'dark' : 'light');

function apply(): void {
  document.documentElement.dataset['theme'] = shownTheme(useTheme.getState().chosen);
}

apply();
useTheme.subscribe(apply);
systemDark.addEventListener('change', apply);
