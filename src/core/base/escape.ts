/** Writes the given ASCII signs, and `%` itself, as `%` and two hexadecimal digits. */
export const escapeSigns = (text: string, signs: string): string =>
  text.replace(/./gsu, (letter) =>
    letter === '%' || signs.includes(letter)
      ? `%${letter.charCodeAt(0).toString(16).padStart(2, '0')}`
      : letter,
  );

/** The inverse of `escapeSigns`. */
export const unescapeSigns = (text: string): string =>
  text.replace(/%([0-9a-f]{2})/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)));
