"""Small linear systems by elimination with pivots, in place (Golub, chapter 3); and a bounded ascent (Hildreth)."""

from oak_lever import tolerances as tol
from oak_lever.motion.compiling import compiled, inlined

_SINGULAR = tol.SINGULAR


@inlined
def eliminate(a, size, columns, definite):
    """Solve in place a[:, :size] x = a[:, size:columns]; the answers take the right-hand sides' place.

    Returns the sign of the determinant; 0 where it is singular or, if `definite` is asked, not positive definite.
    """
    sign = 1.0
    for p in range(size):
        best = p
        if not definite:
            for i in range(p + 1, size):
                if abs(a[i, p]) > abs(a[best, p]):
                    best = i
        if best != p:
            sign = -sign
            for j in range(p, columns):
                a[p, j], a[best, j] = a[best, j], a[p, j]
        pivot = a[p, p]
        if not abs(pivot) > _SINGULAR or (definite and pivot < 0.0):
            return 0.0
        if pivot < 0.0:
            sign = -sign
        part = 1.0 / pivot  # written out, so that the compiler keeps the pivot's row at hand: eight columns at most
        p1, p2, p3, p4, p5, p6, p7 = (
            a[p, 1] * part, a[p, 2] * part, a[p, 3] * part, a[p, 4] * part, a[p, 5] * part, a[p, 6] * part,
            a[p, 7] * part,
        )  # fmt: skip
        a[p, 1], a[p, 2], a[p, 3], a[p, 4], a[p, 5], a[p, 6], a[p, 7] = p1, p2, p3, p4, p5, p6, p7
        for i in range(size):
            if i != p:
                factor = a[i, p]
                a[i, 1] -= factor * p1
                a[i, 2] -= factor * p2
                a[i, 3] -= factor * p3
                a[i, 4] -= factor * p4
                a[i, 5] -= factor * p5
                a[i, 6] -= factor * p6
                a[i, 7] -= factor * p7
    return sign


@compiled
def rank(a, rows, columns, ratio):
    """Rank of a (destroyed) by elimination with full pivoting: pivots below `ratio` of the first count as none."""
    first = 0.0
    for p in range(min(rows, columns)):
        top, bi, bj = 0.0, p, p
        for i in range(p, rows):
            for j in range(p, columns):
                if abs(a[i, j]) > top:
                    top, bi, bj = abs(a[i, j]), i, j
        if p == 0:
            first = top
        if top <= ratio * first or top == 0.0:
            return p
        for j in range(columns):
            a[p, j], a[bi, j] = a[bi, j], a[p, j]
        for i in range(rows):
            a[i, p], a[i, bj] = a[i, bj], a[i, p]
        for i in range(p + 1, rows):
            factor = a[i, p] / a[p, p]
            for j in range(p, columns):
                a[i, j] -= factor * a[p, j]
    return min(rows, columns)


@compiled
def ascend(gram, limits, caps, sweeps, still, weight):
    """Fill weight (N,) with what is least of w' gram w / 2 + limits' w over 0 <= w <= caps, one coordinate at a time
    (Hildreth), until a whole sweep moves none by more than `still`; at most so many sweeps."""
    count = limits.shape[0]
    for i in range(count):
        weight[i] = 0.0
    for _ in range(sweeps):
        moved = 0.0
        for i in range(count):
            slack = limits[i]
            for j in range(count):
                slack += gram[i, j] * weight[j]
            new = min(max(0.0, weight[i] - slack / gram[i, i]), caps[i])
            moved = max(moved, abs(new - weight[i]))
            weight[i] = new
        if moved < still:
            break
