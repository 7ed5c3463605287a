/** Whether this device could keep what was entered last; where it could not, leaving the page before it is saved loses it. */
export const deviceStorage = $state({ full: false });
