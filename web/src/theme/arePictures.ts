/** Whether everything that is dragged is a picture; while it is dragged only its type can be told. */
export const arePictures = (dragged: DataTransfer | null): boolean =>
  dragged !== null && dragged.items.length > 0 && [...dragged.items].every(({ type }) => type.startsWith('image/'));
