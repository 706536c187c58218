/** Marks a part of the page for its contents, by the name that stands there. */
export const partNamed = (name: string) => ({ 'data-part': name });
