/** Words in which a number and its unit stay on one line. */
export const unbroken = (words: string) => words.replace(/([\d¼½¾.]+) (mm|cm|min|m|h|s|turns?|degrees)\b/g, '$1\u00a0$2')
