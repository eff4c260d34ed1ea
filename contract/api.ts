/** Where the server's resources lie: what breaks those who rely on it moves the number. */
export const API = '/api/v1'
