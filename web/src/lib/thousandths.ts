/** mm of m, L of m³, without the tail that the factor leaves; nothing of nothing. */
export const thousandths = (si: number | null): number | null => (si === null ? null : Number((si * 1000).toFixed(4)));

/** m of mm, m³ of L; nothing of nothing. */
export const ofThousandths = (n: number | null | undefined): number | null => (n == null ? null : n / 1000);
