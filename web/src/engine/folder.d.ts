/** The folder under /core/ that holds Python and the core for the browser, named by its contents; null when not packed. */
declare const __CORE_FOLDER__: string | null;
