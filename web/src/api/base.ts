/** Where practice stands in the address; the server knows it by the same name. */
export const practicePrefix = "/practice-bench";

/** In front of every address of this page: nothing at work, its own place in practice. A page is in one of them as a whole. */
export const base = location.pathname.startsWith(`${practicePrefix}/`) ? practicePrefix : "";

/** An address of the server as this page asks for it. */
export const at = (path: string) => `${base}${path}`;
