/** A short word at the foot of the screen, with a way back where there is one. */
export interface Notice {
  id: number;
  text: string;
  action?: { label: string; run: () => void };
}

const STAYS = 9000;

class Notices {
  list = $state.raw<Notice[]>([]);
  private next = 1;

  say(text: string, action?: Notice['action']): void {
    const id = this.next++;
    this.list = [...this.list.slice(-2), { id, text, action }];
    setTimeout(() => this.drop(id), STAYS);
  }

  drop(id: number): void {
    this.list = this.list.filter((n) => n.id !== id);
  }
}

export const notices = new Notices();
