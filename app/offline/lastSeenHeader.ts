/** Header of an answer that the service worker had kept, because the server did not answer. */
export const LAST_SEEN = 'x-last-seen';
