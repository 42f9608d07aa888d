/** The day of today as it is kept: 2006-01-02. */
export const today = (): string => new Date().toLocaleDateString('sv-SE')
