/** By this name in a file the reader knows that it was written here, and takes it to the letter. */
export const OWN_TOOL = 'Zakuska';
