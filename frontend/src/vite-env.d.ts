declare module "@fontsource-variable/atkinson-hyperlegible-next";
declare module "@fontsource-variable/bitter";

/** Which form of a counted thing a number takes, in the language that the pages are built in. */
declare const __PLURAL__: (n: number) => number;
