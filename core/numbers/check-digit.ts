/** The check digit of a GTIN (GS1 General Specifications: weights 3 and 1 from the right). */
export function checkDigit(code: string): boolean {
  const sum = [...code].reverse().reduce((a, c, i) => a + Number(c) * (i % 2 ? 3 : 1), 0);
  return sum % 10 === 0;
}
