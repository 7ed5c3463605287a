import { go } from '$lib/navigation';
import { session } from '$lib/session.svelte';
import { unsent } from '$lib/sync/drafts';
import type { MenuItem } from '$lib/ui/menu';
import { finder } from './finder.svelte';

/** What the person can do with their own account, from whichever menu; its dialogs stand in the house once. */
class Account {
  preferring = $state(false);
  /** Password, second factor, devices. */
  atTheDoor = $state(false);
  /** What was entered here and has not reached the server, when somebody wants to sign out. */
  unsent = $state.raw<string[]>([]);
  sorting = $state(false);

  get items(): MenuItem[] {
    const demo = session.who?.is_demo;
    return [
      { label: 'Find…', run: () => (finder.open = true) },
      { label: 'Units and light', run: () => (this.preferring = true) },
      ...(demo ? [] : [{ label: 'Password and devices', run: () => (this.atTheDoor = true) }]),
      { label: 'Your data: export, import, delete', run: () => (this.sorting = true) },
      { label: demo ? 'Leave the demonstration' : 'Sign out', run: () => void this.signOut() },
    ];
  }

  /** After the workshop is gone. */
  async left(): Promise<void> {
    await session.signOut();
    go('/');
  }

  /** Out, and what never reached the server with it. */
  async throwAwayAndSignOut(): Promise<void> {
    this.unsent = [];
    if (await session.signOut()) go('/');
  }

  private async signOut(): Promise<void> {
    this.unsent = unsent();
    if (!this.unsent.length && (await session.signOut())) go('/');
  }
}

export const account = new Account();
