"""The kernel: distance between convex pieces, and the least of it over many poses.

A piece is a convex core (points, or a cylinder about its own y) grown by a radius. Distance between cores is found by
Gilbert, Johnson and Keerthi's method (1988), the closest point of each simplex by projection; a direction in which two
pieces were once apart bounds their distance in the next pose from below (their supports along it), and most poses are
done with by that.

Plain loops over scalars, nothing allocated, so that it compiles (see `motion.compiling`). Lengths mm.
"""

import numpy as np

from oak_lever.motion.compiling import compiled, inlined

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


@inlined
def _ball(at, n, turns, shifts, reach, body, p, out):  # type: ignore[no-untyped-def]
    """The ball about a core in a pose: its middle, and its radius returned."""
    t, s = turns[body, p], shifts[body, p]
    x, y, z = at[n, 0], at[n, 1], at[n, 2]
    out[0] = t[0, 0] * x + t[0, 1] * y + t[0, 2] * z + s[0]
    out[1] = t[1, 0] * x + t[1, 1] * y + t[1, 2] * z + s[1]
    out[2] = t[2, 0] * x + t[2, 1] * y + t[2, 2] * z + s[2]
    return at[n, 3] * reach[body, p] + at[n, 4]


@inlined
def _between(ca, ra, cb, rb):  # type: ignore[no-untyped-def]
    """What two balls are apart, mm; below 0 where they overlap."""
    x, y, z = ca[0] - cb[0], ca[1] - cb[1], ca[2] - cb[2]
    return np.sqrt(x * x + y * y + z * z) - ra - rb


@compiled
def _farthest(  # type: ignore[no-untyped-def]
    kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, groups, first, end, p, dx, dy, dz, pa, out,
):  # fmt: skip
    """How far along a direction each group of a part reaches in a pose."""
    for g in range(first, end):
        far = -_NEVER
        for n in range(groups[g, 0], groups[g, 1]):
            turn, shift = turns[bodies[n], p], shifts[bodies[n], p]
            along = _support(kinds[n], starts[n], counts[n], sizes[n], verts, turn, shift, dx, dy, dz, pa)
            far = max(far, along + balls[n, 4])
        out[g] = far


@compiled
def _pair(  # type: ignore[no-untyped-def]
    kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, reach, groups, group_balls, parts, part_balls,
    one, other, p, best, within, heading, last, ahead, behind, ways, owners, w, on_a, on_b, lam, part, edge, pa, pb,
    ca, cb, da, db, dc, at_a, at_b,
):  # fmt: skip
    """How far two parts are apart in a pose, mm, the nearest points then in `at_a`, `at_b`; 0 where they meet; and
    whatever is beyond `best` + `within` said as some number beyond it, or the greatest. `heading`: the direction from
    the second to the first in which they were nearest last, none yet where it is 0; `last` (3,), `ahead`,
    `behind` (G,) room."""
    near = _NEVER
    if parts[one, 1] - parts[one, 0] > 1 or parts[other, 1] - parts[other, 0] > 1:
        ra = _ball(part_balls, one, turns, shifts, reach, bodies[groups[parts[one, 0], 0]], p, ca)
        whole = _ball(part_balls, other, turns, shifts, reach, bodies[groups[parts[other, 0], 0]], p, dc)
        if _between(ca, ra, dc, whole) > best + within:
            return near
    else:
        whole = _NEVER
    first_a, first_b = groups[parts[one, 0], 0], groups[parts[other, 0], 0]
    across = groups[parts[other, 1] - 1, 1] - first_b
    hx, hy, hz = heading[0], heading[1], heading[2]
    for k in range(3):
        last[k] = heading[k]
    headed = hx != 0.0 or hy != 0.0 or hz != 0.0
    if headed:
        _farthest(kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, groups, parts[one, 0],
                  parts[one, 1], p, -hx, -hy, -hz, pa, ahead)  # fmt: skip
        _farthest(kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, groups, parts[other, 0],
                  parts[other, 1], p, hx, hy, hz, pa, behind)  # fmt: skip
    for ga in range(parts[one, 0], parts[one, 1]):
        body_a = bodies[groups[ga, 0]]
        ra = _ball(group_balls, ga, turns, shifts, reach, body_a, p, ca)
        if _between(ca, ra, dc, whole) > best + within:
            continue
        for gb in range(parts[other, 0], parts[other, 1]):
            if headed and -ahead[ga] - behind[gb] > best + within:
                continue
            body_b = bodies[groups[gb, 0]]
            rb = _ball(group_balls, gb, turns, shifts, reach, body_b, p, cb)
            if _between(ca, ra, cb, rb) > best + within:
                continue
            for a in range(groups[ga, 0], groups[ga, 1]):
                sa = _ball(balls, a, turns, shifts, reach, body_a, p, da)
                if _between(da, sa, cb, rb) > best + within:
                    continue
                for b in range(groups[gb, 0], groups[gb, 1]):
                    sb = _ball(balls, b, turns, shifts, reach, body_b, p, db)
                    if _between(da, sa, db, sb) > best + within:
                        continue
                    grown = balls[a, 4] + balls[b, 4]
                    ta, fa, tb, fb = turns[body_a, p], shifts[body_a, p], turns[body_b, p], shifts[body_b, p]
                    combo = (a - first_a) * across + b - first_b
                    slot = combo % len(owners)
                    way = ways[slot]
                    if owners[slot] == combo and (way[0] != 0.0 or way[1] != 0.0 or way[2] != 0.0):
                        low = _bound(kinds, starts, counts, sizes, verts, a, ta, fa, b, tb, fb, way, pa, pb)
                        if low - grown > best + within:
                            continue
                    elif owners[slot] != combo:
                        owners[slot] = combo
                        way[0] = way[1] = way[2] = 0.0
                        if headed:
                            low = _bound(kinds, starts, counts, sizes, verts, a, ta, fa, b, tb, fb, last, pa, pb)
                            if low - grown > best + within:
                                way[0], way[1], way[2] = hx, hy, hz
                                continue
                    far = _apart(
                        kinds, starts, counts, sizes, verts, a, ta, fa, b, tb, fb,
                        w, on_a, on_b, lam, part, edge, pa, pb, way,
                    )  # fmt: skip
                    if far <= grown:
                        return 0.0
                    if far - grown < near:
                        near = far - grown
                        best = min(best, near)
                        for k in range(3):
                            heading[k] = way[k]
                            at_a[k] = pa[k] - balls[a, 4] * way[k]
                            at_b[k] = pb[k] + balls[b, 4] * way[k]
    return near


@compiled
def _closest_groups(turns, shifts, reach, bodies, groups, group_balls, parts, one, other, p, ca, cb, best):  # type: ignore[no-untyped-def]
    """The two groups whose balls are the nearest in a pose, in `best`."""
    least_far = _NEVER
    for ga in range(parts[one, 0], parts[one, 1]):
        ra = _ball(group_balls, ga, turns, shifts, reach, bodies[groups[ga, 0]], p, ca)
        for gb in range(parts[other, 0], parts[other, 1]):
            rb = _ball(group_balls, gb, turns, shifts, reach, bodies[groups[gb, 0]], p, cb)
            far = _between(ca, ra, cb, rb)
            if far < least_far:
                least_far = far
                best[0], best[1] = ga, gb


@compiled
def least(  # type: ignore[no-untyped-def]
    kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, reach, groups, group_balls, parts, part_balls,
    pairs, most, within, at, order, heading, last, ahead, behind, ways, owners, w, on_a, on_b, lam, part, edge, pa,
    pb, ca, cb, da, db, dc, single, endless, near, gaps, gap, pose, at_a, at_b,
):  # fmt: skip
    """For each pair of parts its least gap over the poses `at`, and of the poses within `within` mm of it the first.

    Pieces: `kinds`, `starts`, `counts` into `verts` (V, 3), `sizes` (N, 2) of cylinders, `balls` (N, 5) about them
    (middle, the core's radius, what it is grown by), `bodies` whose `turns` (B, P, 3, 3) and `shifts` (B, P, 3) carry
    them and at most lengthen them by `reach` (B, P). Groups of pieces of one body: `groups` (G, 2) from which piece to
    which, `group_balls` (G, 5). Parts: `parts` (T, 2) from which group to which, `part_balls` (T, 5), endless about one
    of several bodies. `pairs` (C, 2) of parts, each looked at no farther than `most` (C,) mm. `order` in which to look
    at the poses; `ways` (S, 3), `owners` (S,), `gaps` (len(at),) and the rest room. Out: `gap`, and `pose` (pairs,)
    which of `at`; `at_a`, `at_b` (pairs, 3) the nearest points there, unless they meet. Beyond `most` it is some
    greater gap.
    """
    for n in range(len(pairs)):
        one, other = pairs[n, 0], pairs[n, 1]
        best, met = most[n], len(at)
        heading[0] = heading[1] = heading[2] = 0.0
        for o in range(len(at)):
            gaps[o] = _NEVER
        for slot in range(len(owners)):
            owners[slot] = -1
        if parts[one, 1] - parts[one, 0] > 1 or parts[other, 1] - parts[other, 0] > 1:
            # how near their nearest groups come is a bound for all the others
            p = at[order[0]]
            _closest_groups(turns, shifts, reach, bodies, groups, group_balls, parts, one, other, p, ca, cb, near)
            for side in range(2):
                single[side, 0], single[side, 1] = near[side], near[side] + 1
            found = _pair(
                kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, reach, groups, group_balls, single,
                endless, 0, 1, p, best, within, heading, last, ahead, behind, ways, owners, w, on_a, on_b, lam, part,
                edge, pa, pb, ca, cb, da, db, dc, at_a[n], at_b[n],
            )  # fmt: skip
            best = min(best, found)
            for slot in range(len(owners)):
                owners[slot] = -1
        for o in range(len(at)):
            k = order[o]
            if k > met:
                continue  # they meet in an earlier one, and nothing is less
            gaps[k] = _pair(
                kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, reach, groups, group_balls, parts,
                part_balls, one, other, at[k], best, within, heading, last, ahead, behind, ways, owners, w, on_a, on_b,
                lam, part, edge, pa, pb, ca, cb, da, db, dc, at_a[n], at_b[n],
            )  # fmt: skip
            best = min(best, gaps[k])
            if best <= 0.0 and gaps[k] <= within:
                met = min(met, k)
        gap[n], pose[n] = _NEVER, 0
        for k in range(len(at)):
            gap[n] = min(gap[n], gaps[k])
        for k in range(len(at)):
            if gaps[k] <= gap[n] + within:
                pose[n] = k
                break
        if 0.0 < gap[n] < _NEVER:
            _pair(
                kinds, starts, counts, sizes, balls, bodies, verts, turns, shifts, reach, groups, group_balls, parts,
                part_balls, one, other, at[pose[n]], gaps[pose[n]], within, heading, last, ahead, behind, ways, owners,
                w, on_a, on_b, lam, part, edge, pa, pb, ca, cb, da, db, dc, at_a[n], at_b[n],
            )  # fmt: skip


@inlined
def _turn(xs, ys, a, b, c):  # type: ignore[no-untyped-def]
    """Above 0 where the way from a over b to c turns left."""
    return (xs[b] - xs[a]) * (ys[c] - ys[b]) - (ys[b] - ys[a]) * (xs[c] - xs[b])


@inlined
def _same(xs, ys, a, b):  # type: ignore[no-untyped-def]
    return xs[a] == xs[b] and ys[a] == ys[b]


@compiled
def _is_ear(xs, ys, left, count, n):  # type: ignore[no-untyped-def]
    """Whether the n-th corner left, with its neighbors, is a triangle inside that holds no other; or lies in line."""
    a, b, c = left[(n - 1) % count], left[n], left[(n + 1) % count]
    turn = _turn(xs, ys, a, b, c)
    if turn < 0.0:
        return False
    if turn == 0.0:
        return not _same(xs, ys, a, c)
    for k in range(count):
        p = left[k]
        if _same(xs, ys, p, a) or _same(xs, ys, p, b) or _same(xs, ys, p, c):
            continue
        if _turn(xs, ys, a, b, p) >= 0.0 and _turn(xs, ys, b, c, p) >= 0.0 and _turn(xs, ys, c, a, p) >= 0.0:
            return False
    return True


@inlined
def _diagonal(xs, ys, left, count, n):  # type: ignore[no-untyped-def]
    """The square of what clipping the n-th corner left would cut along; the greatest number where it is no ear."""
    if not _is_ear(xs, ys, left, count, n):
        return _NEVER
    a, c = left[(n - 1) % count], left[(n + 1) % count]
    return (xs[c] - xs[a]) ** 2 + (ys[c] - ys[a]) ** 2


@compiled
def clip_ears(xs, ys, left, cuts, ears):  # type: ignore[no-untyped-def]
    """Triangles that cover a simple polygon of N corners that turns left, by clipping ears, the shortest cut first: so
    that they are small where the corners are close.

    `left` (N,) the corners' numbers, `cuts` (N,) room. Out: `ears` (N, 3) corners of triangles; how many there are is
    returned, and what is left is in `left`, the count of it in ears[-1, 0].
    """
    count, found = len(xs), 0
    for n in range(count):
        cuts[n] = _diagonal(xs, ys, left, count, n)
    while count > 3:
        at = 0
        for n in range(count):
            if cuts[n] < cuts[at]:
                at = n
        if cuts[at] == _NEVER:  # what was no ear before others went may be one now
            for n in range(count):
                cuts[n] = _diagonal(xs, ys, left, count, n)
                if cuts[n] < cuts[at]:
                    at = n
            if cuts[at] == _NEVER:  # nothing but corners in line is left
                break
        ears[found, 0], ears[found, 1], ears[found, 2] = left[(at - 1) % count], left[at], left[(at + 1) % count]
        found += 1
        for k in range(at, count - 1):
            left[k], cuts[k] = left[k + 1], cuts[k + 1]
        count -= 1
        for n in (at - 1, at):
            cuts[n % count] = _diagonal(xs, ys, left, count, n % count)
    ears[len(ears) - 1, 0] = count
    return found


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
