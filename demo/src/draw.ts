import { type Kind } from './range.ts';

/** The colours of the shop, as its pictures and swatches show them. */
export const SHADES: Readonly<Record<string, string>> = {
  Blue: '#2f4f8f',
  Black: '#23262b',
  Oxblood: '#6e2028',
  Moss: '#5b6b2f',
  Slate: '#56646f',
  Plum: '#5f3559',
  Amber: '#b9781f',
  Teal: '#1e6b6b',
  Ivory: '#eadfc2',
  Rust: '#a2512b',
  Fern: '#5f8256',
  White: '#f7f5ee',
  Cream: '#efe4c6',
  Rose: '#d9a3a0',
  Brass: '#b49445',
  Steel: '#98a0a6',
  Oak: '#a07a4a',
};
const DRAWINGS: Readonly<Record<Kind['drawing'], (shade: string) => string>> = {
  bottle: (shade) =>
    `<path d="M150 130h100v40l50 60v120q0 20-20 20H120q-20 0-20-20V230l50-60z" fill="${shade}"/><rect x="140" y="90" width="120" height="44" rx="6" fill="#2b2a28"/><rect x="130" y="250" width="140" height="70" fill="#fbf8ee"/><path d="M145 270h110M145 285h80M145 300h95" stroke="#9b917c" stroke-width="4"/>`,
  notebook: (shade) =>
    `<rect x="110" y="70" width="190" height="260" rx="8" fill="${shade}"/><rect x="110" y="70" width="26" height="260" fill="#00000030"/><rect x="165" y="120" width="100" height="46" fill="#fbf8ee"/><path d="M282 70v260" stroke="#2b2a28" stroke-width="6"/>`,
  sheet: (shade) =>
    `<rect x="120" y="90" width="180" height="240" fill="#d8cfb8" transform="rotate(5 210 210)"/><rect x="110" y="80" width="180" height="240" fill="${shade}" stroke="#cbbf9f"/><path d="M135 130h130M135 160h130M135 190h130M135 220h90" stroke="#00000022" stroke-width="3"/>`,
  pen: (shade) =>
    `<g transform="rotate(-38 200 200)"><rect x="60" y="186" width="220" height="28" rx="12" fill="${shade}"/><rect x="190" y="186" width="8" height="28" fill="#b49445"/><path d="M280 190l60 8v4l-60 8z" fill="#b49445"/></g>`,
  nib: (shade) =>
    `<path d="M200 70q46 90 20 180h-40q-26-90 20-180z" fill="${shade}"/><path d="M200 90v110" stroke="#2b2a28" stroke-width="3"/><circle cx="200" cy="205" r="8" fill="#2b2a28"/><rect x="182" y="250" width="36" height="70" fill="${shade}"/>`,
  box: (shade) =>
    `<rect x="90" y="150" width="220" height="150" rx="6" fill="${shade}"/><rect x="80" y="120" width="240" height="46" rx="6" fill="${shade}"/><path d="M80 166h240" stroke="#00000040" stroke-width="4"/><rect x="150" y="200" width="100" height="50" fill="#fbf8ee"/>`,
  stick: (shade) =>
    `<g transform="rotate(-30 200 200)"><rect x="70" y="170" width="250" height="26" rx="4" fill="${shade}"/><rect x="80" y="206" width="250" height="26" rx="4" fill="${shade}" opacity=".75"/></g>`,
};

/** A picture of a kind of goods in a colour, as SVG: a still life of one thing on pale paper. */
export function draw(kind: Kind, colour: string | null): string {
  const shade = SHADES[colour ?? 'Oak'] ?? '#8a7f6a';
  return `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" viewBox="0 0 400 400"><rect width="400" height="400" fill="#fffdf7"/><ellipse cx="205" cy="345" rx="130" ry="14" fill="#0000000f"/>${DRAWINGS[kind.drawing](shade)}</svg>`;
}
