"""Every per-pixel step once more, plainly, in NumPy: the reference that the compiled steps are held against, in float64, and the peer of
the benches, in float32. Nothing here is shared with the compiled code but published constants and the parameters' models."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from typing import Any

import numpy as np
from scipy.interpolate import CubicHermiteSpline, CubicSpline

from saucer.core.colour.adaptation import CONES, adaptation
from saucer.core.colour.encodings import ENCODINGS, Encoding
from saucer.core.colour.oklab import linear_to_oklab, oklab_to_linear
from saucer.core.colour.planckian import place_of, white_at
from saucer.core.colour.primaries import BT709, Adaptation, rgb_to_rgb, rgb_to_xyz, xyz_of
from saucer.core.look.model import Group, Look
from saucer.core.lut.table import Lut

Array = np.ndarray


def smooth(t: Array) -> Array:
    t = np.clip(t, 0, 1)
    return t * t * (3 - 2 * t)


def signed_power(x: Array, exponent: float) -> Array:
    return np.sign(x) * np.abs(x) ** exponent


def in_light(encoding: Encoding, x: Array, work: Callable[[Array], Array]) -> Array:
    transfer = encoding.transfer
    return np.asarray(transfer.encode_formula(work(transfer.decode_formula(x))), x.dtype)


def in_oklab(encoding: Encoding, x: Array, work: Callable[[Array], Array]) -> Array:
    there = rgb_to_rgb(encoding.primaries, BT709).T.astype(x.dtype)
    back = rgb_to_rgb(BT709, encoding.primaries).T.astype(x.dtype)
    return in_light(encoding, x, lambda light: oklab_to_linear(work(linear_to_oklab(light @ there))) @ back)


def converted(x: Array, source: Encoding, target: Encoding, method: Adaptation = "bradford") -> Array:
    if source == target:
        return x
    light = source.transfer.decode_formula(x) @ rgb_to_rgb(source.primaries, target.primaries, method).T.astype(x.dtype)
    return np.asarray(target.transfer.encode_formula(light), x.dtype)


def luma(x: Array, encoding: Encoding) -> Array:
    return (x @ encoding.luma.astype(x.dtype))[:, None]


def spline(points: Any, interpolation: str) -> Callable[[Array], Array]:
    px, py = np.array(points, np.float64).T
    if interpolation == "linear":
        slopes = np.diff(py) / np.diff(px)
        first, last = slopes[0], slopes[-1]
        inside: Callable[[Array], Array] = lambda v: np.interp(v, px, py)  # noqa: E731
    else:
        natural = CubicSpline(px, py, bc_type="natural") if len(px) > 2 else None
        slopes = natural(px, 1) if natural is not None else np.full(2, np.diff(py)[0] / np.diff(px)[0])
        if interpolation == "smooth":
            secants = np.diff(py) / np.diff(px)
            left, right = np.append(secants[:1], secants), np.append(secants, secants[-1:])
            most = 3 * np.minimum(np.abs(left), np.abs(right))
            for i, slope in enumerate(slopes):
                sign = np.sign(left[i]) if left[i] * right[i] > 0 else np.sign(slope)
                slopes[i] = sign * min(max(0, sign * slope), most[i])
        first, last = slopes[0], slopes[-1]
        inside = CubicHermiteSpline(px, py, slopes)

    def curve(v: Array) -> Array:
        below = py[0] + (v - px[0]) * (first if px[0] == 0 else 0)
        above = py[-1] + (v - px[-1]) * (last if px[-1] == 1 else 0)
        return np.where(v < px[0], below, np.where(v >= px[-1], above, inside(np.clip(v, px[0], px[-1])))).astype(v.dtype)

    return curve


def curves(step: Any, x: Array, encoding: Encoding) -> Array:
    def bend(name: str) -> Callable[[Array], Array]:
        one, span = spline(getattr(step, name), step.interpolation), step.high - step.low
        return lambda v: step.low + span * one((v - step.low) / span)

    x = np.stack([bend(name)(x[:, i]) for i, name in enumerate(("red", "green", "blue"))], axis=1)
    master = bend("master")
    if step.master_on == "luma":
        grey = luma(x, encoding)
        x = x + (master(grey) - grey)
    else:
        x = master(x)
    return np.clip(x, step.low, step.high) if step.clip else x


def levels(step: Any, x: Array, encoding: Encoding) -> Array:
    def part(p: Any, v: Array) -> Array:
        t = (v - p.input_black) / (p.input_white - p.input_black)
        size = np.abs(t)
        bent = np.where(size < 1, np.minimum(size, 1) ** (1 / p.gamma), 1 + (size - 1) / p.gamma)
        return p.output_black + np.sign(t) * bent * (p.output_white - p.output_black)

    x = np.stack([part(getattr(step, name), x[:, i]) for i, name in enumerate(("red", "green", "blue"))], axis=1)
    return part(step.master, x)


def channel_mix(step: Any, x: Array, encoding: Encoding) -> Array:
    grey = encoding.luma if step.grey is None else step.grey
    rows = np.array([grey] * 3 if step.monochrome else [step.red, step.green, step.blue], x.dtype)
    if step.keep_neutral:
        rows = rows / rows.sum(axis=1, keepdims=True)

    def mixed(v: Array) -> Array:
        return v @ rows.T + np.array(step.offset, v.dtype)

    return in_light(encoding, x, mixed) if step.light == "linear" else mixed(x)


def tone(step: Any, x: Array, encoding: Encoding) -> Array:
    pivot = float(np.clip(encoding.transfer.encode_formula(np.array(step.pivot)), 0.02, 0.98))
    if step.exposure:
        x = in_light(encoding, x, lambda light: light * x.dtype.type(2.0**step.exposure))

    def gain(u: Array, k: float) -> Array:
        v = np.maximum(u, 0)
        return v / (k + (1 - k) * v) + np.minimum(u, 0) / k

    def bent(light: Array) -> Array:
        powered = np.minimum(step.pivot * (np.maximum(light, 0) / step.pivot) ** step.contrast, 65504)
        return np.where(light > 0, powered, light).astype(x.dtype)

    c = step.contrast if step.contrast_on == "code" else 1.0
    if step.contrast_on == "light" and step.contrast != 1:
        x = in_light(encoding, x, bent)
    x = np.where(x > pivot, 1 - (1 - pivot) * gain((1 - x) / (1 - pivot), c), pivot * gain(x / pivot, c)).astype(x.dtype)
    s = 2 ** (1.5 * step.toe)
    u = x / pivot
    v = np.clip(u, 0, 1)
    x = np.where(u < 1, pivot * (s * v + (2 - 2 * s) * v**2 + (s - 1) * v**3 + np.minimum(u, 0) * s), x).astype(x.dtype)
    s, room = 2 ** (1.5 * step.shoulder), 1 - pivot
    d = np.maximum(x - pivot, 0)
    v = np.minimum(d, room)
    x = (x + (s - 1) * (v**2 / (2 * room) + (d - v))).astype(x.dtype)
    k = 4**-step.brightness
    v = np.clip(x, 0, 1)
    return (v / (k + (1 - k) * v) + np.maximum(x - 1, 0) * k + np.minimum(x, 0) / k).astype(x.dtype)


@lru_cache
def _place(white: tuple[float, float]) -> tuple[float, float]:
    return place_of(xyz_of(white))


def _half(matrix: Array) -> Array:
    """Its square root, by its eigenvalues."""
    values, vectors = np.linalg.eig(matrix)
    return np.asarray(((vectors * np.sqrt(values)) @ np.linalg.inv(vectors)).real)


def white_balance(step: Any, x: Array, encoding: Encoding) -> Array:
    white = xyz_of(encoding.primaries.white)
    mired, duv = _place(encoding.primaries.white)
    to_xyz = rgb_to_xyz(encoding.primaries)
    # Half of the way there after half of the way back from the opposite, along the locus and across it; all are diagonal in the cones' answers.
    places = [(way * step.warm, 0) for way in (1, -1)], [(0, way * step.tint) for way in (1, -1)]
    moved = np.eye(3)
    for there, opposite in places:
        halves = [
            _half(adaptation(CONES[step.cones], white, white_at(mired + along, duv + across)))
            for along, across in (there, opposite)
        ]
        moved = moved @ halves[0] @ np.linalg.inv(halves[1])
    moved = moved * np.sqrt((np.linalg.inv(moved) @ white)[1] / (moved @ white)[1])
    matrix = (np.linalg.inv(to_xyz) @ moved @ to_xyz).T.astype(x.dtype)
    return in_light(encoding, x, lambda light: light @ matrix)


def saturation(step: Any, x: Array, encoding: Encoding) -> Array:
    wr, _, wb = encoding.luma
    grey = luma(x, encoding)
    chroma = np.concatenate([(x[:, 2:] - grey) / (2 * (1 - wb)), (x[:, :1] - grey) / (2 * (1 - wr))], axis=1)
    size = np.abs(x).max(axis=1, keepdims=True)
    s = np.minimum((x.max(axis=1, keepdims=True) - x.min(axis=1, keepdims=True)) / (size + 0.02), 1)
    skin_line = np.array([np.cos(np.radians(123)), np.sin(np.radians(123))], x.dtype)
    along = (chroma @ skin_line)[:, None] / (np.hypot(chroma[:, :1], chroma[:, 1:]) + 1e-6)
    skin = smooth((along - 0.8) * 5.5) * smooth(s / 0.2)
    factor = step.factor * (1 + step.muted * (1 - s) ** 2 * (1 - 0.7 * skin))
    return (x + (factor - 1) * (x - grey)).astype(x.dtype)


def hue_bands(step: Any, x: Array, encoding: Encoding) -> Array:
    def work(lab: Array) -> Array:
        hue = np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360
        chroma = np.hypot(lab[:, 1], lab[:, 2])
        turn, factor, lift = np.zeros_like(hue), np.zeros_like(hue), np.zeros_like(hue)
        for i, band in enumerate(step.bands):
            after, before = step.bands[(i + 1) % 8].centre, step.bands[i - 1].centre
            up, down = (hue - before) % 360 / ((band.centre - before) % 360), (after - hue) % 360 / ((after - band.centre) % 360)
            weight = np.where(up < 1, smooth(up), 0) + np.where(down <= 1, smooth(down), 0)
            weight = np.where((up < 1) & (down <= 1), 1, weight)
            turn, factor, lift = turn + weight * band.hue, factor + weight * band.saturation, lift + weight * band.lightness
        centres = np.array([band.centre for band in step.bands])
        after = (np.roll(centres, -1) - centres) % 360
        shares, full = (after + np.roll(after, 1)) / 720, smooth(chroma / 0.04)
        means = [shares @ np.array([getattr(band, name) for band in step.bands]) for name in ("hue", "saturation")]
        turn, factor = means[0] + full * (turn - means[0]), means[1] + full * (factor - means[1])
        c, s = np.cos(np.radians(turn)), np.sin(np.radians(turn))
        a, b = lab[:, 1], lab[:, 2]
        light = lab[:, 0] + full * lift
        return np.stack([light, factor * (a * c - b * s), factor * (a * s + b * c)], axis=1).astype(lab.dtype)

    return in_oklab(encoding, x, work)


def _through(points: Any, none: float, x: Array, period: float | None) -> Array:
    """SciPy's periodic or natural spline, its slopes held to three times the smaller secant, level at turns and at open ends."""
    if len(points) < 2:
        return np.full_like(x, points[0][1] if points else none)
    at, values = np.array(points, np.float64).T
    if period is not None:
        at, values = np.append(at, at[0] + period), np.append(values, values[0])
        free = CubicSpline(at, values, bc_type="periodic")(at, 1)
    else:
        free = CubicSpline(at, values, bc_type="natural")(at, 1)
    secants = np.diff(values) / np.diff(at)
    before = np.concatenate([secants[-1:] if period is not None else [0], secants])
    after = np.concatenate([secants, secants[:1] if period is not None else [0]])
    most = 3 * np.minimum(np.abs(before), np.abs(after))
    slopes = np.where(before * after > 0, np.sign(before) * np.clip(np.sign(before) * free, 0, most), 0)
    inside = at[0] + (x - at[0]) % period if period is not None else np.clip(x, at[0], at[-1])
    return np.asarray(CubicHermiteSpline(at, values, slopes)(inside))


def colour_curves(step: Any, x: Array, encoding: Encoding) -> Array:
    circle = np.arange(0, 360, 0.05)
    means = [_through(step.turn, 0, circle, 360).mean(), _through(step.saturation, 1, circle, 360).mean()]

    def work(lab: Array) -> Array:
        hue, full = np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360, smooth(np.hypot(lab[:, 1], lab[:, 2]) / 0.04)
        turn = np.radians(means[0] + full * (_through(step.turn, 0, hue, 360) - means[0]))
        factor = means[1] + full * (_through(step.saturation, 1, hue, 360) - means[1])
        factor = factor * _through(step.saturation_by_lightness, 1, lab[:, 0], None)
        light = lab[:, 0] + full * _through(step.lightness, 0, hue, 360)
        colour = factor * np.exp(1j * turn) * (lab[:, 1] + 1j * lab[:, 2])
        return np.stack([light, colour.real, colour.imag], axis=1).astype(lab.dtype)

    return in_oklab(encoding, x, work)


def isolate_hue(step: Any, x: Array, encoding: Encoding) -> Array:
    def work(lab: Array) -> Array:
        away = np.abs((np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) - step.centre + 180) % 360 - 180)
        full = smooth(np.hypot(lab[:, 1], lab[:, 2]) / 0.04)
        keep = step.others + full * (1 - step.others) * (1 - smooth((away - step.width / 2) / step.softness))
        return (lab * np.stack([np.ones_like(keep), keep, keep], axis=1)).astype(lab.dtype)

    return in_oklab(encoding, x, work)


def split_tone(step: Any, x: Array, encoding: Encoding) -> Array:
    width, shift = 0.02 + 0.64 * step.overlap, -0.25 * step.lean

    def vector(tint: Any) -> Array:
        return np.array([tint.lightness, tint.amount * np.cos(np.radians(tint.hue)), tint.amount * np.sin(np.radians(tint.hue))])

    def work(lab: Array) -> Array:
        up = smooth((lab[:, :1] - (1 / 3 + shift - width / 2)) / width)
        high = smooth((lab[:, :1] - (2 / 3 + shift - width / 2)) / width)
        change = (1 - up) * vector(step.shadows) + (up - high) * vector(step.midtones) + high * vector(step.highlights)
        return (lab + change + vector(step.all)).astype(lab.dtype)

    return in_oklab(encoding, x, work)


def cdl(step: Any, x: Array, encoding: Encoding) -> Array:
    slope, offset, power = (np.array(part, x.dtype) for part in (step.slope, step.offset, step.power))
    v = x * slope + offset
    v = np.clip(v, 0, 1) if step.clamp else v
    v = np.where((v > 0) & (power != 1), np.minimum(np.maximum(v, 0) ** power, 65504), v)
    grey = (v @ np.array([0.2126, 0.7152, 0.0722], x.dtype))[:, None]
    v = grey + x.dtype.type(step.saturation) * (v - grey)
    return np.clip(v, 0, 1) if step.clamp else v


def blended(mode: str, backdrop: Array, source: Array) -> Array:
    """W3C Compositing and Blending Level 1, 10.1 and 10.2, with what the backdrop has outside 0..1 added again."""
    if mode == "normal":
        return source
    b, s = np.clip(backdrop, 0, 1), np.clip(source, 0, 1)
    with np.errstate(divide="ignore", invalid="ignore"):
        return (_blend(mode, b, s) + (backdrop - b)).astype(backdrop.dtype)


def _hard(b: Array, s: Array) -> Array:
    return np.where(s <= 0.5, b * 2 * s, b + (2 * s - 1) - b * (2 * s - 1))


def _blend(mode: str, b: Array, s: Array) -> Array:
    match mode:
        case "multiply":
            return b * s
        case "screen":
            return b + s - b * s
        case "overlay":
            return _hard(s, b)
        case "darken":
            return np.minimum(b, s)
        case "lighten":
            return np.maximum(b, s)
        case "color-dodge":
            return np.where(b == 0, 0, np.where(s == 1, 1, np.minimum(1, b / (1 - s))))
        case "color-burn":
            return np.where(b == 1, 1, np.where(s == 0, 0, 1 - np.minimum(1, (1 - b) / s)))
        case "hard-light":
            return _hard(b, s)
        case "soft-light":
            d = np.where(b <= 0.25, ((16 * b - 12) * b + 4) * b, np.sqrt(b))
            return np.where(s <= 0.5, b - (1 - 2 * s) * b * (1 - b), b + (2 * s - 1) * (d - b))
        case "difference":
            return np.abs(b - s)
        case "exclusion":
            return b + s - 2 * b * s
        case "add-less-one":
            return np.maximum(b + s - 1, 0)
        case "hue":
            return _set_lum(_set_sat(s, _sat(b)), _lum(b))
        case "saturation":
            return _set_lum(_set_sat(b, _sat(s)), _lum(b))
        case "color":
            return _set_lum(s, _lum(b))
        case "luminosity":
            return _set_lum(b, _lum(s))
    raise AssertionError(mode)


def _lum(c: Array) -> Array:
    return (c @ np.array([0.3, 0.59, 0.11], c.dtype))[:, None]


def _sat(c: Array) -> Array:
    return c.max(axis=1, keepdims=True) - c.min(axis=1, keepdims=True)


def _set_sat(c: Array, s: Array) -> Array:
    spread = _sat(c)
    return np.where(spread > 0, (c - c.min(axis=1, keepdims=True)) * s / np.where(spread > 0, spread, 1), 0)


def _set_lum(c: Array, light: Array) -> Array:
    c = c + (light - _lum(c))
    grey, low, high = _lum(c), c.min(axis=1, keepdims=True), c.max(axis=1, keepdims=True)
    c = np.where(low < 0, grey + (c - grey) * grey / np.where(low < 0, grey - low, 1), c)
    return np.where(high > 1, grey + (c - grey) * (1 - grey) / np.where(high > 1, high - grey, 1), c)


def wash(step: Any, x: Array, encoding: Encoding) -> Array:
    colour = np.array(step.colour, x.dtype)[None]
    return blended(step.mode, x, np.repeat(colour, len(x), axis=0))


def tone_wash(step: Any, x: Array, encoding: Encoding) -> Array:
    if not step.colours:
        return x
    tones = np.clip(luma(x, encoding), 0, 1)[:, 0]
    points = [[(one.at, one.colour[channel]) for one in step.colours] for channel in range(3)]
    return blended(step.mode, x, np.stack([_through(one, 0.0, tones, None) for one in points], axis=1).astype(x.dtype))


def tetrahedral(lut: Lut, x: Array) -> Array:
    """Corner by corner in the order of the fractions (Kasson et al. 1995), for a lattice over 0..1."""
    assert lut.lattice is not None
    table, n = lut.lattice.table.astype(x.dtype), lut.lattice.size
    at = np.clip(x, 0, 1) * (n - 1)
    cell = np.minimum(at.astype(int), n - 2)
    part = at - cell
    order = np.argsort(-part, axis=1, kind="stable")
    corner, result = cell.copy(), table[tuple(cell.T)].copy()
    rows = np.arange(len(x))
    for k in range(3):
        axis = order[:, k]
        before = table[tuple(corner.T)]
        corner[rows, axis] += 1
        result += part[rows, axis][:, None] * (table[tuple(corner.T)] - before)
    return result


def limit(step: Any, x: Array, encoding: Encoding) -> Array:
    low, high = (-np.inf if step.low is None else step.low), (np.inf if step.high is None else step.high)
    knee = step.knee * min(high - low, 2.0) / 2

    def limited(v: Array) -> Array:
        if knee == 0:
            return np.clip(v, low, high)
        over, under = np.maximum((v - (high - knee)) / knee, 0), np.maximum((low + knee - v) / knee, 0)
        v = np.where(over > 0, high - knee + knee * over / (1 + over), v) if np.isfinite(high) else v
        return np.where(under > 0, low + knee - knee * under / (1 + under), v) if np.isfinite(low) else v

    if step.keep == "channels":
        return limited(x).astype(x.dtype)
    most, least = x.max(axis=1, keepdims=True), x.min(axis=1, keepdims=True)
    spread = np.where(most > least, most - least, 1)
    share = (x - least) / spread
    return (limited(least) + share * (limited(most) - limited(least))).astype(x.dtype)


PLAIN: dict[str, Callable[[Any, Array, Encoding], Array]] = {
    "curves": curves, "levels": levels, "channel-mix": channel_mix, "tone": tone, "white-balance": white_balance,
    "saturation": saturation, "hue-bands": hue_bands, "isolate-hue": isolate_hue, "colour-curves": colour_curves, "split-tone": split_tone, "cdl": cdl,
    "wash": wash, "tone-wash": tone_wash, "limit": limit,
}  # fmt: skip


def one(step: Any, x: Array, encoding: Encoding, luts: Callable[[str], Lut] | None = None) -> tuple[Array, Encoding]:
    """The full effect of one step, and the encoding it ends in; `convert` plainly, without gamut mapping."""
    if step.kind == "convert":
        target = ENCODINGS[step.to]
        return converted(x, encoding, target, step.adaptation), target
    if step.kind == "lut":
        assert luts is not None
        expects, gives = ENCODINGS[step.expects], ENCODINGS[step.gives or step.expects]
        end = gives if step.ends_in == "gives" else encoding
        return converted(tetrahedral(luts(step.sha256), converted(x, encoding, expects)), gives, end), end
    return PLAIN[step.kind](step, x, encoding), encoding


def whole(steps: Any, x: Array, encoding: Encoding, luts: Callable[[str], Lut] | None = None) -> tuple[Array, Encoding]:
    """Steps and groups one after the other, each at its strength; groups with the blend mode `normal` only."""
    for step in steps:
        result, end = whole(step.steps, x, encoding, luts) if isinstance(step, Group) else one(step, x, encoding, luts)
        plain = converted(x, encoding, end)
        x, encoding = (plain + x.dtype.type(step.strength) * (result - plain)).astype(x.dtype), end
    return x, encoding


def look(given: Look, x: Array, luts: Callable[[str], Lut] | None = None) -> Array:
    """A whole look in the dtype of x, (n, 3)."""
    return whole(given.steps, x, ENCODINGS[given.input], luts)[0]
