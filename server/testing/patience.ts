/** How long one test of the server may take, in milliseconds. */
jest.setTimeout(60_000)
