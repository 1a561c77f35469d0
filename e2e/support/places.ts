/** Where the program under test listens; the demo's ports stay free. */
export const STUDIO = 'http://localhost:18080'
export const PUBLIC = 'http://127.0.0.1:18090'
export const STANDINS = 'http://127.0.0.1:18099'
