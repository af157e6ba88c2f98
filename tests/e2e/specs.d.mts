/** What each file of end-to-end tests is about: where one of these folders changed, a short run has all of its tests. */
export const specs: Record<string, { of: string[]; together?: true }>
