/** Stands in for the framework's cache where actions are tested alone: what was made anew is looked at afterwards. */
export const renewed: string[] = [];
export const revalidatePath = (path: string) => void renewed.push(path);
