/** Whether the find box is open; from the header, from a board's menu, by a key. */
class Finder {
  open = $state(false);
}

export const finder = new Finder();
