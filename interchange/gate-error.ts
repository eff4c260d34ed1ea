/** A gate that cannot be written in a format, in words that say what to do. */
export class GateError extends Error {}
