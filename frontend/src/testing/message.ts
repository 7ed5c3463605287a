/** A sentence as the core answers it. */
export const message = (template: string, values: object = {}) => ({ text: template, template, values });
