/** The grid package, fetched once; asked for early, it comes while the frame is being made. */
export const loadGrid = () => import('@revolist/revogrid/standalone/revo-grid.js');
