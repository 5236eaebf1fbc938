/** What is drawn of the plate comes before all else, so that nothing behind it is drawn over it. */
export const PLATE_ORDER = -500;
