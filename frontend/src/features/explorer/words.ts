import type { Wish } from './explorer.svelte';

export const TITLES: Record<Wish, string> = {
  speed: 'Speed',
  hill: 'Hill',
  range: 'Range',
  carry: 'Carried',
  money: 'Money',
};
