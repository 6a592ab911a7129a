// What the page and its service worker call things by.
export const shellCache = 'keencrock-page'
export const lastCache = 'keencrock-last'
/** The list of the page's files. */
export const shellList = '/shell.json'
/** On an answer that was kept: when it was read. */
export const readHeader = 'X-Read-At'
