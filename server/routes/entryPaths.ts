/** Where a browser shows who it is: by the passcode, or by a code that joins. */
export const ENTER_PATH = '/enter';
export const JOIN_PATH = '/join';
