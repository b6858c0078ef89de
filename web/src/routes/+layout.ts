// The server serves files; everything else happens in the browser.
export const ssr = false;
export const prerender = false;
