/**
 * The characters that `trim` takes from the ends of a text (ECMAScript's WhiteSpace and LineTerminator):
 * a cell of these alone is blank, here and in the database, which has no such set of its own.
 */
export const WHITE_SPACE = '\t\n\v\f\r \u00a0\u1680\u2000\u2001\u2002\u2003\u2004\u2005\u2006\u2007\u2008\u2009\u200a\u2028\u2029\u202f\u205f\u3000\ufeff'
