/**
 * The path below which the installation is reached, without a slash at its end: empty, unless a proxy puts it below one. The server
 * writes it into the page.
 */
export const BASE = (document.querySelector('base')?.getAttribute('href') ?? '/').replace(/\/$/, '');

/** An address of the server as a link needs it. @param path from the installation on, such as `/api/runs` */
export const at = (path: string) => BASE + path;

/** Where the browser is, from the installation on. */
export const here = () =>
  location.pathname.startsWith(`${BASE}/`) ? location.pathname.slice(BASE.length) : location.pathname;
