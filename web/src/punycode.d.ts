// The plain name is that of a module of Node.js, which a browser has not.
declare module 'punycode/punycode.es6.js' {
  export * from 'punycode'
}
