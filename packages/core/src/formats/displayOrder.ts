/** Places in an order that is not the key's but always the same: players that do not shuffle must not show the key. */
export const displayOrder = (n: number): number[] => {
  const order = Array.from({ length: n }, (_, i) => i);
  return n < 3 ? order.reverse() : [...order.filter((i) => i % 2), ...order.filter((i) => i % 2 === 0)];
};
