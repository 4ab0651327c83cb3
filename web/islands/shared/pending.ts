/** Edits that are under way, by project: what is read meanwhile may be older than what the page shows. */
const underWay = new Map<string, number>();

export const begin = (project: string): void => void underWay.set(project, (underWay.get(project) ?? 0) + 1);
export const end = (project: string): void => void underWay.set(project, (underWay.get(project) ?? 1) - 1);
export const isPending = (project: string): boolean => (underWay.get(project) ?? 0) > 0;
