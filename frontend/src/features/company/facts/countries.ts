// Countries as people call them.

const names = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'code' });

/** "Portugal" for PT. */
export const countryName = (code: string) => names.of(code) ?? code;
