/** How long one test of the interface may take, in milliseconds. */
jest.setTimeout(240_000)
