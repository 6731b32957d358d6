/** Where the server's answers wait for a page that is opened without the network. */
export const ANSWERS = "drylamp-answers";
/** Never from memory: the clock, what says whether the server is up, and who may come in. */
export const FRESH = /^\/api\/(now|health|jobs|share)/;
