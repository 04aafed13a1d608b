"""The kernel: distance between convex pieces, and the least of it over many poses.

A piece is a convex core (points, or a cylinder about its own y) grown by a radius. Distance between cores is found by
Gilbert, Johnson and Keerthi's method (1988), the closest point of each simplex by projection; a direction in which two
pieces were once apart bounds their distance in the next pose from below (their supports along it), and most poses are
done with by that.

Plain loops over scalars, nothing allocated, so that it compiles (see `motion.compiling`). Lengths mm.
"""

import numpy as np

from oak_lever.motion.compiling import compiled, inlined

POINTS, CYLINDER = 0, 1
_MOST = 300
"""Rounds of one search; a cylinder's takes some thirty, points' fewer than their number."""
_CLOSE_MM = 1e-7
_CLOSE = 1e-11
_NEVER = 1e300


@inlined
def _support(kind, start, count, size, verts, turn, shift, dx, dy, dz, out):  # type: ignore[no-untyped-def]
    """The farthest point of a core in a direction, in the chassis, and how far along it that lies."""
    lx = turn[0, 0] * dx + turn[1, 0] * dy + turn[2, 0] * dz
    ly = turn[0, 1] * dx + turn[1, 1] * dy + turn[2, 1] * dz
    lz = turn[0, 2] * dx + turn[1, 2] * dy + turn[2, 2] * dz
    px, py, pz = 0.0, 0.0, 0.0
    if kind == 1:
        flat = np.sqrt(lx * lx + lz * lz)
        if flat > 0.0:
            px, pz = size[0] * lx / flat, size[0] * lz / flat
        py = size[1] if ly >= 0.0 else -size[1]
    else:
        best = -1e300
        for n in range(start, start + count):
            along = verts[n, 0] * lx + verts[n, 1] * ly + verts[n, 2] * lz
            if along > best:
                best = along
                px, py, pz = verts[n, 0], verts[n, 1], verts[n, 2]
    out[0] = turn[0, 0] * px + turn[0, 1] * py + turn[0, 2] * pz + shift[0]
    out[1] = turn[1, 0] * px + turn[1, 1] * py + turn[1, 2] * pz + shift[1]
    out[2] = turn[2, 0] * px + turn[2, 1] * py + turn[2, 2] * pz + shift[2]
    return out[0] * dx + out[1] * dy + out[2] * dz


@compiled
def _on_edge(w, i, j, part):  # type: ignore[no-untyped-def]
    """Parts of w[i], w[j] of their line's nearest point to the origin, and its distance squared."""
    along, square = 0.0, 0.0
    for k in range(3):
        e = w[j, k] - w[i, k]
        along -= w[i, k] * e
        square += e * e
    t = min(max(along / square, 0.0), 1.0) if square > 0.0 else 0.0
    part[0], part[1] = 1.0 - t, t
    far = 0.0
    for k in range(3):
        p = w[i, k] + t * (w[j, k] - w[i, k])
        far += p * p
    return far


@compiled
def _on_face(w, i, j, m, part, edge):  # type: ignore[no-untyped-def]
    """The same for the triangle of three: within it where its foot lies there, else on an edge."""
    ax, ay, az = w[j, 0] - w[i, 0], w[j, 1] - w[i, 1], w[j, 2] - w[i, 2]
    bx, by, bz = w[m, 0] - w[i, 0], w[m, 1] - w[i, 1], w[m, 2] - w[i, 2]
    aa, ab, bb = ax * ax + ay * ay + az * az, ax * bx + ay * by + az * bz, bx * bx + by * by + bz * bz
    pa = -(w[i, 0] * ax + w[i, 1] * ay + w[i, 2] * az)
    pb = -(w[i, 0] * bx + w[i, 1] * by + w[i, 2] * bz)
    flat = aa * bb - ab * ab
    if flat > 1e-14 * aa * bb:
        u, v = (pa * bb - pb * ab) / flat, (pb * aa - pa * ab) / flat
        if u >= 0.0 and v >= 0.0 and u + v <= 1.0:
            part[0], part[1], part[2] = 1.0 - u - v, u, v
            far = 0.0
            for k in range(3):
                p = part[0] * w[i, k] + u * w[j, k] + v * w[m, k]
                far += p * p
            return far
    best = _on_edge(w, i, j, edge)
    part[0], part[1], part[2] = edge[0], edge[1], 0.0
    far = _on_edge(w, i, m, edge)
    if far < best:
        best = far
        part[0], part[1], part[2] = edge[0], 0.0, edge[1]
    far = _on_edge(w, j, m, edge)
    if far < best:
        best = far
        part[0], part[1], part[2] = 0.0, edge[0], edge[1]
    return best


@compiled
def _side(w, i, j, m, n):  # type: ignore[no-untyped-def]
    """Whether the origin lies on the other side of the face (i, j, m) than n, or n in the face."""
    ax, ay, az = w[j, 0] - w[i, 0], w[j, 1] - w[i, 1], w[j, 2] - w[i, 2]
    bx, by, bz = w[m, 0] - w[i, 0], w[m, 1] - w[i, 1], w[m, 2] - w[i, 2]
    nx, ny, nz = ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx
    here = -(w[i, 0] * nx + w[i, 1] * ny + w[i, 2] * nz)
    there = (w[n, 0] - w[i, 0]) * nx + (w[n, 1] - w[i, 1]) * ny + (w[n, 2] - w[i, 2]) * nz
    return here * there <= 0.0


@compiled
def _nearest(w, count, lam, part, edge):  # type: ignore[no-untyped-def]
    """Parts `lam` of the simplex's corners of its point nearest to the origin; -1: the origin is inside."""
    for k in range(4):
        lam[k] = 0.0
    if count == 1:
        lam[0] = 1.0
        return 0
    if count == 2:
        _on_edge(w, 0, 1, part)
        lam[0], lam[1] = part[0], part[1]
        return 0
    if count == 3:
        _on_face(w, 0, 1, 2, part, edge)
        lam[0], lam[1], lam[2] = part[0], part[1], part[2]
        return 0
    best, inside = 1e300, True
    for face in range(4):
        i = 0 if face < 3 else 1
        j = 1 if face < 2 else 2
        m = 2 if face < 1 else 3
        n = 3 - face
        if _side(w, i, j, m, n):
            inside = False
            far = _on_face(w, i, j, m, part, edge)
            if far < best:
                best = far
                lam[0] = lam[1] = lam[2] = lam[3] = 0.0
                lam[i], lam[j], lam[m] = part[0], part[1], part[2]
    return -1 if inside else 0


@compiled
def _apart(  # type: ignore[no-untyped-def]
    kinds,
    starts,
    counts,
    sizes,
    verts,
    a,
    turn_a,
    shift_a,
    b,
    turn_b,
    shift_b,
    w,
    on_a,
    on_b,
    lam,
    part,
    edge,
    pa,
    pb,
    way,
):
    """How far two cores are apart, mm; `way` (3,) the unit direction from b to a, `pa`, `pb` the nearest points.
    0 where they meet, and then nothing else is said."""
    _support(kinds[a], starts[a], counts[a], sizes[a], verts, turn_a, shift_a, 1.0, 0.0, 0.0, pa)
    _support(kinds[b], starts[b], counts[b], sizes[b], verts, turn_b, shift_b, -1.0, 0.0, 0.0, pb)
    vx, vy, vz = pa[0] - pb[0], pa[1] - pb[1], pa[2] - pb[2]
    count, square = 1, vx * vx + vy * vy + vz * vz
    w[0, 0], w[0, 1], w[0, 2], lam[0] = vx, vy, vz, 1.0
    for k in range(3):
        on_a[0, k], on_b[0, k] = pa[k], pb[k]
    for _ in range(_MOST):
        if square <= 1e-20:
            return 0.0
        _support(kinds[a], starts[a], counts[a], sizes[a], verts, turn_a, shift_a, -vx, -vy, -vz, pa)
        _support(kinds[b], starts[b], counts[b], sizes[b], verts, turn_b, shift_b, vx, vy, vz, pb)
        wx, wy, wz = pa[0] - pb[0], pa[1] - pb[1], pa[2] - pb[2]
        left = square - (vx * wx + vy * wy + vz * wz)
        if left <= _CLOSE * square + _CLOSE_MM * np.sqrt(square):
            break
        again = False
        for n in range(count):
            again = again or (w[n, 0] == wx and w[n, 1] == wy and w[n, 2] == wz)
        if again:
            break
        w[count, 0], w[count, 1], w[count, 2] = wx, wy, wz
        for k in range(3):
            on_a[count, k], on_b[count, k] = pa[k], pb[k]
        count += 1
        if _nearest(w, count, lam, part, edge) < 0:
            return 0.0
        kept = 0
        for n in range(count):
            if lam[n] > 0.0:
                lam[kept] = lam[n]
                for k in range(3):
                    w[kept, k], on_a[kept, k], on_b[kept, k] = w[n, k], on_a[n, k], on_b[n, k]
                kept += 1
        count = kept
        nx, ny, nz = 0.0, 0.0, 0.0
        for n in range(count):
            nx += lam[n] * w[n, 0]
            ny += lam[n] * w[n, 1]
            nz += lam[n] * w[n, 2]
        closer = nx * nx + ny * ny + nz * nz
        vx, vy, vz = nx, ny, nz
        if count == 4 or closer >= square * (1.0 - 1e-15):
            square = closer
            break
        square = closer
    far = np.sqrt(square)
    if far <= 1e-10:
        return 0.0
    way[0], way[1], way[2] = vx / far, vy / far, vz / far
    for k in range(3):
        pa[k], pb[k] = 0.0, 0.0
        for n in range(count):
            pa[k] += lam[n] * on_a[n, k]
            pb[k] += lam[n] * on_b[n, k]
    return far


@compiled
def _bound(kinds, starts, counts, sizes, verts, a, turn_a, shift_a, b, turn_b, shift_b, way, pa, pb):  # type: ignore[no-untyped-def]
    """What two cores are apart along a direction from b to a, mm: never more than they are."""
    low = -_support(kinds[a], starts[a], counts[a], sizes[a], verts, turn_a, shift_a, -way[0], -way[1], -way[2], pa)
    high = _support(kinds[b], starts[b], counts[b], sizes[b], verts, turn_b, shift_b, way[0], way[1], way[2], pb)
    return low - high


@compiled
def least(  # type: ignore[no-untyped-def]
    kinds, starts, counts, sizes, rounds, bodies, verts, turns, shifts, first, many, combos, ways, within,
    order, w, on_a, on_b, lam, part, edge, pa, pb, gaps, gap, pose, at_a, at_b,
):  # fmt: skip
    """For each pair of parts its least gap over the poses, and of the poses within `within` mm of it the first.

    Pieces: `kinds`, `starts`, `counts` into `verts` (V, 3), `sizes` (N, 2) of cylinders, `rounds`, `bodies` whose
    `turns` (B, P, 3, 3) and `shifts` (B, P, 3) carry them. Pairs: `first`, `many` into `combos` (C, 2) of pieces;
    `ways` (C, 3) room. `order` (P,) in which to look at the poses. Out: `gap`, `pose` (pairs,), `at_a`, `at_b`
    (pairs, 3) the nearest points there.
    """
    poses = len(order)
    for pair in range(len(first)):
        best = _NEVER
        for p in range(poses):
            gaps[p] = _NEVER
        for c in range(first[pair], first[pair] + many[pair]):
            ways[c, 0] = ways[c, 1] = ways[c, 2] = 0.0
        for o in range(poses):
            p = order[o]
            for c in range(first[pair], first[pair] + many[pair]):
                a, b = combos[c, 0], combos[c, 1]
                grown = rounds[a] + rounds[b]
                ta, sa, tb, sb = turns[bodies[a], p], shifts[bodies[a], p], turns[bodies[b], p], shifts[bodies[b], p]
                if ways[c, 0] != 0.0 or ways[c, 1] != 0.0 or ways[c, 2] != 0.0:
                    low = _bound(kinds, starts, counts, sizes, verts, a, ta, sa, b, tb, sb, ways[c], pa, pb)
                    if low - grown > best + within:
                        continue
                far = _apart(
                    kinds, starts, counts, sizes, verts, a, ta, sa, b, tb, sb,
                    w, on_a, on_b, lam, part, edge, pa, pb, ways[c],
                )  # fmt: skip
                far = max(far - grown, 0.0)
                gaps[p] = min(gaps[p], far)
                best = min(best, far)
        gap[pair], pose[pair] = best, 0
        for p in range(poses):
            if gaps[p] <= best + within:
                pose[pair] = p
                break
        p, near = pose[pair], _NEVER
        for c in range(first[pair], first[pair] + many[pair]):
            a, b = combos[c, 0], combos[c, 1]
            ta, sa, tb, sb = turns[bodies[a], p], shifts[bodies[a], p], turns[bodies[b], p], shifts[bodies[b], p]
            far = _apart(
                kinds, starts, counts, sizes, verts, a, ta, sa, b, tb, sb,
                w, on_a, on_b, lam, part, edge, pa, pb, ways[c],
            )  # fmt: skip
            if far > 0.0 and far - rounds[a] - rounds[b] < near:
                near = far - rounds[a] - rounds[b]
                for k in range(3):
                    at_a[pair, k] = pa[k] - rounds[a] * ways[c, k]
                    at_b[pair, k] = pb[k] + rounds[b] * ways[c, k]


@compiled
def each(  # type: ignore[no-untyped-def]
    kinds, starts, counts, sizes, rounds, verts, points, still, nowhere, w, on_a, on_b, lam, part, edge, pa, pb, way,
    out, at,
):  # fmt: skip
    """How far each of many points is from the nearest of some pieces, mm: 0 within one. The last piece of the table is
    a single point at the origin, which is brought to each of `points` (P, 3). Out: `out` (P,), and `at` (P, 3) the
    piece's nearest point; the point itself within one."""
    last = len(kinds) - 1
    for p in range(len(points)):
        out[p] = _NEVER
        for n in range(last):
            far = _apart(
                kinds, starts, counts, sizes, verts, last, still, points[p], n, still, nowhere,
                w, on_a, on_b, lam, part, edge, pa, pb, way,
            )  # fmt: skip
            inside = far <= rounds[n]
            if inside or far - rounds[n] < out[p]:
                out[p] = 0.0 if inside else far - rounds[n]
                for k in range(3):
                    at[p, k] = points[p, k] if inside else pb[k] + rounds[n] * way[k]
