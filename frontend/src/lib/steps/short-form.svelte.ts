import { PersistedState } from 'runed';

/** Whether steps are shown as lines to tick, for builders who know why; remembered on this device. */
export const shortForm = new PersistedState('sand-pocket:short-form', false);
