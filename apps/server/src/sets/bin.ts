/** So many days a set lies in the bin before it goes for good. */
export const BIN_DAYS = 30;
