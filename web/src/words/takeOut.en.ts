/** Words of the export of goods into a file. */
export const takeOutWords = {
  open: 'Export',
  what: {
    SKUs: (count: string, columns: string) => `${count} SKUs as CSV, with: ${columns}`,
    products: (count: string, columns: string) =>
      `${count} products as CSV, a line each, by the code of the first SKU, with: ${columns}`,
  },
  of: 'Lines are of',
  ofs: [
    { value: 'SKUs', name: 'by SKU' },
    { value: 'products', name: 'by product' },
  ],
  separator: 'What divides the cells',
  separators: [
    { value: 'comma', name: 'commas' },
    { value: 'semicolon', name: 'semicolons' },
    { value: 'tab', name: 'tabs' },
  ],
  decimalSign: 'Decimal sign',
  decimalSigns: [
    { value: '.', name: '12.50' },
    { value: ',', name: '12,50' },
  ],
  encoding: 'Encoding',
  encodings: [
    { value: 'utf-8', name: 'UTF-8' },
    { value: 'utf-16le', name: 'UTF-16' },
  ],
  digits: 'Codes of digits',
  digitsAs: [
    { value: 'plain', name: 'codes as they are' },
    { value: 'text', name: 'for spreadsheets: keep digits as text' },
  ],
  take: 'Export',
  close: 'Close',
  back: 'Brought back, the file changes only what you changed in it.',
};
