import { go } from '$lib/going';
import { session } from '$lib/session.svelte';
import type { MenuItem } from '$lib/ui/menu';

/** What the person can do with their own account, from whichever menu; its dialogs stand in the house once. */
class Account {
  preferring = $state(false);
  changingPassword = $state(false);
  sorting = $state(false);

  get items(): MenuItem[] {
    const demo = session.who?.is_demo;
    return [
      { label: 'Units and light', run: () => (this.preferring = true) },
      ...(demo ? [] : [{ label: 'Change password', run: () => (this.changingPassword = true) }]),
      { label: 'What is yours: out, in, delete', run: () => (this.sorting = true) },
      { label: demo ? 'Leave the demonstration' : 'Sign out', run: () => void this.signOut() },
    ];
  }

  /** After the workshop is gone. */
  async left(): Promise<void> {
    await session.signOut();
    go('/');
  }

  private async signOut(): Promise<void> {
    if (await session.signOut()) go('/');
  }
}

export const account = new Account();
