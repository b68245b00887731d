/** Nearly every text: words without accents, one space between them. */
const PLAIN = /^(?:[!-~]+(?: [!-~]+)*)?$/;

/** Text as it is compared: case and accents dropped, apostrophes straight, inner runs of spaces made one. The SQL twin is `fold(text)`. */
export function fold(text: string): string {
  if (PLAIN.test(text)) return text.toLowerCase();
  return text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replaceAll('ß', 'ss')
    .replaceAll('ς', 'σ')
    .replace(/[‘’ʼ]/g, "'")
    .replace(/\s+/g, ' ')
    .trim();
}
