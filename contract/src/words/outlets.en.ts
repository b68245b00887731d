/** Why a setting of an outlet's file is refused: what was typed, and what would be right. */
export const outletSettingWords = {
  title: () => 'The title of the feed has from 1 to 150 characters.',
  link: (text: string) => `“${text}” is no address of a shop. Write it like https://shop.example.`,
  prefix: (text: string) =>
    `“${text}” cannot be a prefix. It has up to 20 letters, digits, - and _, and begins with a letter, but not with xml.`,
  namespace: (text: string) =>
    `“${text}” cannot be a namespace address. Write it like https://engine.example/attributes.`,
  fileName: (text: string) =>
    `“${text}” cannot be the name of the file. It has up to 60 letters, digits, - and _, and one ending, .xml.`,
  address: (text: string) =>
    `“${text}” is no address where a file is handed in. Write it like https://engine.example/feeds.`,
};
