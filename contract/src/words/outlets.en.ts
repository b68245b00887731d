/** Why a setting of an outlet's file is refused: what was typed, and what would be right. */
export const outletSettingWords = {
  title: () => 'The title of the feed has from 1 to 150 characters.',
  link: (text: string) => `“${text}” is no address of a shop. Write it like https://shop.example.`,
  prefix: (text: string) =>
    `“${text}” cannot be a prefix. It has up to 20 letters, digits, - and _, and begins with a letter, but not with xml.`,
  namespace: (text: string) => `“${text}” cannot be a namespace address. Write it like https://engine.example/words.`,
  fileName: (text: string) =>
    `“${text}” cannot be the name of the file. It has up to 60 letters, digits, - and _, and one ending, .xml.`,
  nameInFile: (text: string) =>
    `“${text}” cannot be the name of a field in the file. It has up to 60 letters, digits, -, _ and points, begins with a letter, and not with xml. Leave it empty to leave the field out.`,
  nameTwice: (text: string) => `Two fields are called “${text}” in the file. Each name may stand once.`,
  wordInFile: (text: string) => `“${text}” cannot be a word in the file. It has from 1 to 60 characters.`,
  address: (text: string) =>
    `“${text}” is no address where a file is handed in. Write it like https://engine.example/feeds.`,
};
