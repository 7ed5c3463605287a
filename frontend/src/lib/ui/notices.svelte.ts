/** A short word at the foot of the screen, with a way back where there is one. */
export interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
  /** What the way back belongs to; the notice goes when it does. */
  of?: object;
}

const STAYS = 9000;

class Notices {
  list = $state.raw<Notice[]>([]);
  private next = 1;

  /** `stays` until it is answered. */
  say(text: string, action?: Notice['action'], of?: object, stays = false): void {
    const id = this.next++;
    this.list = [...this.list.slice(-2), { id, text, action, of }];
    if (!stays) setTimeout(() => this.drop(id), STAYS);
  }

  /** What was said of something that is no longer here can no longer be undone there. */
  forget(of: object): void {
    this.list = this.list.filter((n) => n.of !== of);
  }

  drop(id: number): void {
    this.list = this.list.filter((n) => n.id !== id);
  }
}

export const notices = new Notices();
