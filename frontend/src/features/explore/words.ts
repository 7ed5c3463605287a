import type { Wish } from './explore.svelte';

export const TITLES: Record<Wish, string> = {
  speed: 'Speed',
  hill: 'Hill',
  range: 'Range',
  carry: 'Carried',
  money: 'Money',
};
