/** One line of a menu: something to do, or somewhere to go. */
export interface MenuItem {
  label: string;
  run?: () => void;
  href?: string;
  /** The address is a file to keep. */
  download?: boolean;
  grave?: boolean;
  /** One of several of which one holds. */
  checked?: boolean;
  /** What stands above this line and those after it. */
  heading?: string;
}
