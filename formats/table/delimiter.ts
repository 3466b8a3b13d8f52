/** Semicolon and tab win over comma, since a comma may be the decimal sign. */
export const delimiterOf = (text: string): string => {
  const [head = ''] = text.split('\n');
  return head.includes(';') ? ';' : head.includes('\t') ? '\t' : ',';
};
