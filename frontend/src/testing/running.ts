/** How to stop what a test has started. */
export const running = new Set<() => void>();
