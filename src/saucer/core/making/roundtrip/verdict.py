"""What else than a recolouring got into a twin chart: vignette, grain, sharpening, softening (resizing), compression; and how much.

All amounts are code values of 255. Each effect has its own trace: flat greys stay flat unless there is grain; the two twins of a colour
agree unless place or neighbours matter; the edges of patches over- or undershoot under sharpening or softening; and compression leaves
ripples in small patches that flat greys do not have.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from saucer.core.making.roundtrip.chart import BAND_ROWS, GREY_CELLS, MARGIN, TwinLayout

CODES = 255.0
LUMA = np.array([0.299, 0.587, 0.114])
"""ITU-R BT.601, as JPEG has it: thinning out colour alone then leaves the luma of edges as it is."""
GRAIN_AT, VIGNETTE_AT, EDGE_AT, RIPPLE_AT = 0.6, 1.0, 1.0, 1.0
"""Codes of 255 from which an effect is claimed. Rounding to 8 bits leaves at most half a code, so none of them."""


@dataclass(frozen=True)
class Effect:
    """One thing that got in. codes: how much, in codes of 255; sentence: what was seen"""

    id: str
    title: str
    codes: float
    sentence: str


@dataclass(frozen=True, eq=False)
class Measures:
    """Everything measured, claimed or not, in codes of 255.

    twins: root mean square difference between twins
    factor, added: (rows, columns) brightness by place: what a value is multiplied with, 1 in the middle, and what is added, 0 there
    """

    grain: float
    vignette: float
    edge: float
    ripple: float
    twins: float
    factor: np.ndarray
    added: np.ndarray

    def without_vignette(self, colours: np.ndarray) -> np.ndarray:
        """(rows, columns, 3) as they would be in the middle of the chart."""
        return (colours - self.added[..., None]) / self.factor[..., None]

    @property
    def corner(self) -> float:
        """How a mid grey in the corner differs from one in the middle, in codes."""
        return (0.5 * (float(self.factor[0, 0]) - 1) + float(self.added[0, 0])) * CODES


def cell_blocks(pixels: np.ndarray, layout: TwinLayout) -> np.ndarray:
    """(main_rows, columns, patch, patch, 3) of the colours."""
    p, top = layout.patch, MARGIN + layout.main_top * layout.patch
    main = pixels[top : top + layout.main_rows * p, MARGIN : MARGIN + layout.columns * p]
    return main.reshape(layout.main_rows, p, layout.columns, p, 3).swapaxes(1, 2)


def middles(pixels: np.ndarray, layout: TwinLayout) -> np.ndarray:
    """(main_rows, columns, 3) mean of the inner part of every patch."""
    blocks, cut = cell_blocks(pixels, layout), max(1, layout.patch // 4)
    return blocks[:, :, cut : layout.patch - cut, cut : layout.patch - cut].astype(np.float64).mean(axis=(2, 3))


def _flat_noise(pixels: np.ndarray, layout: TwinLayout) -> float:
    """Scatter in the flat greys around a bent surface (so that a vignette does not count), in codes: the median square's."""
    p, levels = layout.patch, []
    for row, column, _ in layout.greys():
        # Two cells are left out at each side: compression carries colour 16 pixels across an edge.
        top, left = MARGIN + (row + 2) * p, MARGIN + (column + 2) * p
        square = pixels[top : top + (BAND_ROWS - 4) * p, left : left + (GREY_CELLS - 4) * p].astype(np.float64)
        y, x = np.mgrid[-1 : 1 : square.shape[0] * 1j, -1 : 1 : square.shape[1] * 1j]
        basis = np.stack([np.ones_like(x), x, y, x * x, x * y, y * y], axis=-1).reshape(-1, 6)
        flat = square.reshape(-1, 3)
        rest = flat - basis @ np.linalg.lstsq(basis, flat, rcond=None)[0]
        levels.append(np.sqrt((rest**2).mean()))
    return float(np.median(levels)) * CODES


def _places(layout: TwinLayout) -> tuple[np.ndarray, np.ndarray]:
    """(main_rows, columns) x and y of the cells, -1..1 over the half diagonal of the picture."""
    y, x = np.mgrid[: layout.main_rows, : layout.columns].astype(np.float64)
    half = np.hypot(layout.width, layout.height) / 2
    x = (MARGIN + (x + 0.5) * layout.patch - layout.width / 2) / half
    y = (MARGIN + (y + layout.main_top + 0.5) * layout.patch - layout.height / 2) / half
    return x, y


def pairs(layout: TwinLayout) -> np.ndarray:
    """(n, 2) flat positions of the two twins of every colour that stands exactly twice."""
    flat = layout.cells.reshape(-1)
    order = np.argsort(flat, kind="stable")
    counts = np.bincount(flat, minlength=layout.size**3)
    starts = np.concatenate([[0], np.cumsum(counts)[:-1]])
    twice = counts == 2
    return np.stack([order[starts[twice]], order[starts[twice] + 1]], axis=1)


def _field(colours: np.ndarray, layout: TwinLayout) -> tuple[np.ndarray, np.ndarray]:
    """Brightness by place, from the differences between twins: a product with 1 + field, and an amount added, both smooth in place.

    Returns: (rows, columns) factor, 1 in the middle of the chart; (rows, columns) addition, 0 there
    """
    x, y = _places(layout)
    r2 = x * x + y * y
    basis = np.stack([x, y, r2, r2 * r2, r2**3], axis=-1).reshape(-1, 5)
    two = pairs(layout)
    luma = colours.reshape(-1, 3) @ LUMA
    difference = luma[two[:, 0]] - luma[two[:, 1]]
    level = (luma[two[:, 0]] + luma[two[:, 1]]) / 2
    places = basis[two[:, 0]] - basis[two[:, 1]]
    columns = np.concatenate([places * level[:, None], places], axis=1)
    weights = np.ones(len(difference))
    for _ in range(4):  # outliers (ripples at strong edges) count less: Huber's weights
        found = np.linalg.lstsq(columns * weights[:, None], difference * weights, rcond=None)[0]
        rest = np.abs(difference - columns @ found)
        scale = 1.5 * np.median(rest) + 1e-9
        weights = np.sqrt(np.minimum(1, scale / np.maximum(rest, 1e-12)))
    shape = layout.cells.shape
    # The basis is 0 in the middle of the picture, so the factor is 1 there.
    return np.maximum(1 + basis @ found[:5], 0.05).reshape(shape), (basis @ found[5:]).reshape(shape)


def _edges(pixels: np.ndarray, layout: TwinLayout, colours: np.ndarray) -> tuple[float, float]:
    """How a patch's border pixels lean: away from the neighbour (sharpening, +) or towards it (softening, -); a share of the step.

    Returns: that share; the same in codes at a typical step
    """
    blocks = cell_blocks(pixels, layout).astype(np.float64) @ LUMA
    luma, p, cut = colours @ LUMA, layout.patch, max(1, layout.patch // 4)
    lean, step = [], []
    right = luma[:, 1:] - luma[:, :-1]
    down = luma[1:] - luma[:-1]
    inner = slice(cut, p - cut)
    lean += [blocks[:, :-1, inner, -1].mean(-1) - luma[:, :-1], blocks[:, 1:, inner, 0].mean(-1) - luma[:, 1:]]
    step += [-right, right]
    lean += [blocks[:-1, :, -1, inner].mean(-1) - luma[:-1], blocks[1:, :, 0, inner].mean(-1) - luma[1:]]
    step += [-down, down]
    a, b = np.concatenate([one.ravel() for one in step]), np.concatenate([one.ravel() for one in lean])
    # What cannot leave 0..1 cannot overshoot: only patches away from the ends of the range tell.
    own = np.concatenate([one.ravel() for one in (luma[:, :-1], luma[:, 1:], luma[:-1], luma[1:])])
    low, high = np.percentile(luma, [10, 90])
    free = (own > low) & (own < high)
    a, b = a[free], b[free]
    share = float((a * b).sum() / max((a * a).sum(), 1e-12))
    return share, share * float(np.sqrt((a * a).mean())) * CODES


def _surround(colours: np.ndarray, layout: TwinLayout) -> float:
    """How far a patch's middle moves away from (+) or towards (-) its surroundings, in codes: local contrast, glow, wide blur."""
    luma = colours @ LUMA
    padded = np.pad(luma, 1, mode="edge")
    around = np.zeros_like(luma)
    for dy in (-1, 0, 1):
        for dx in (-1, 0, 1):
            if (dy, dx) != (0, 0):
                around += padded[1 + dy : 1 + dy + luma.shape[0], 1 + dx : 1 + dx + luma.shape[1]] / 8
    two = pairs(layout)
    flat, near = luma.ravel(), around.ravel()
    difference = flat[two[:, 0]] - flat[two[:, 1]]
    lean = near[two[:, 0]] - near[two[:, 1]]
    share = float((difference * lean).sum() / max((lean * lean).sum(), 1e-12))
    return -share * float(np.sqrt((lean * lean).mean())) * CODES


REACH = 2
"""Patches on each side that a filter may carry into another: those next to it, and what these took from theirs."""
MOST_FITTED = 6000


def _steps_around(values: np.ndarray) -> np.ndarray:
    """(n, 24 + 8) of every patch that has patches all around: how far its neighbours are from it, and the nearest ones squared, signs kept.

    The squares stand for filters that act by contrast: a blur or sharpening that spares strong edges, or weak ones.
    """
    windows = np.lib.stride_tricks.sliding_window_view(values, (2 * REACH + 1, 2 * REACH + 1))
    steps = windows - windows[..., REACH : REACH + 1, REACH : REACH + 1]
    nearest = np.delete(steps[..., REACH - 1 : REACH + 2, REACH - 1 : REACH + 2].reshape(-1, 9), 4, axis=1)
    all_around = np.delete(steps.reshape(-1, (2 * REACH + 1) ** 2), 2 * REACH * (REACH + 1), axis=1)
    return np.concatenate([all_around, nearest * np.abs(nearest)], axis=1)


def _shares(steps: np.ndarray, off: np.ndarray) -> np.ndarray:
    """(steps, places) what every place of a patch takes from its surroundings, found where that explains it better than nothing does."""
    some = np.random.default_rng(1).permutation(len(off))[:MOST_FITTED]
    steps, off = steps[some], off[some]
    shares = np.linalg.lstsq(steps, off, rcond=None)[0]
    for _ in range(3):
        explained = np.abs(off - steps @ shares) < np.abs(off)
        for place in range(off.shape[1]):
            taken = explained[:, place]
            if taken.sum() > 2 * steps.shape[1]:
                shares[:, place] = np.linalg.lstsq(steps[taken], off[taken, place], rcond=None)[0]
    return shares


def _ripple(pixels: np.ndarray, layout: TwinLayout) -> float:
    """How far the pixels inside patches lie off their patch's mean, in codes: the 99th percentile of the largest channel.

    What the patches around explain is no ripple: a filter (sharpening, softening) carries them in, by the same share at one place of all.
    The shares are found in luma, and are taken off each channel by its own steps or by those of luma, whichever leaves less. Patches at the
    ends of the range, where overshoot is cut off, do not count.
    """
    blocks = cell_blocks(pixels, layout)
    cut, edge = 1 if layout.patch < 8 else 2, slice(REACH, -REACH)
    inner = blocks[edge, edge, cut : layout.patch - cut, cut : layout.patch - cut].astype(np.float64)
    off = (inner - inner.mean(axis=(2, 3), keepdims=True)).reshape(-1, inner.shape[2] * inner.shape[3], 3)
    around = np.stack([blocks[edge, edge].min(axis=(2, 3, 4)), 1 - blocks[edge, edge].max(axis=(2, 3, 4))]).min(axis=0).ravel()
    inside = around > 1 / CODES
    if inside.mean() > 0.1:
        off = off[inside]
    else:
        inside[:] = True
    colours = middles(pixels, layout)
    of_luma = _steps_around(colours @ LUMA)[inside]
    shares = _shares(of_luma, off @ LUMA)

    def left(steps: list[np.ndarray]) -> float:
        rest = np.stack([off[..., channel] - one @ shares for channel, one in enumerate(steps)], axis=-1)
        return float(np.percentile(np.minimum(np.abs(rest), np.abs(off)).max(axis=-1), 99)) * CODES

    return min(left([_steps_around(colours[..., channel])[inside] for channel in range(3)]), left([of_luma] * 3))


def measure_chart(pixels: np.ndarray, layout: TwinLayout) -> Measures:
    """pixels: (h, w, 3) float32, the recoloured chart at its own size."""
    colours = middles(pixels, layout)
    factor, added = _field(colours, layout)
    _, edge = _edges(pixels, layout, colours)
    even = (colours - added[..., None]) / factor[..., None]
    wide = _surround(even, layout)
    two = pairs(layout)
    flat = colours.reshape(-1, 3)
    twins = float(np.sqrt(((flat[two[:, 0]] - flat[two[:, 1]]) ** 2).mean())) * CODES
    strongest = edge if abs(edge) >= abs(wide) else wide
    at_grey = 0.5 * (factor - 1) + added
    return Measures(
        _flat_noise(pixels, layout), float(np.ptp(at_grey)) * CODES, strongest, _ripple(pixels, layout), twins, factor, added
    )


def name_effects(found: Measures) -> tuple[Effect, ...]:
    """What is claimed, the strongest first; nothing for a clean chart."""
    claimed = []
    if found.grain > GRAIN_AT:
        claimed.append(Effect("grain", "Grain", found.grain, f"Flat greys scatter by {found.grain:.1f} of 255 codes."))
    if found.vignette > VIGNETTE_AT:
        side = "darker" if found.corner < 0 else "lighter"
        claimed.append(
            Effect("vignette", "Vignette or gradient", found.vignette,
                   f"The same colours differ by place, up to {found.vignette:.1f} of 255 codes; the corners are {side}.")
        )  # fmt: skip
    # Ripples at strong edges, and a steep vignette across a patch, lean a little to one side by themselves.
    leaning = abs(found.edge) > max(EDGE_AT, 0.15 * found.ripple, 0.03 * found.vignette)
    if leaning and found.edge > 0:
        claimed.append(
            Effect("sharpening", "Sharpening", found.edge, f"Edges overshoot by {found.edge:.1f} of 255 codes at a typical step.")
        )
    if leaning and found.edge < 0:
        claimed.append(
            Effect(
                "resize",
                "Resizing or softening",
                -found.edge,
                f"Edges are softened by {-found.edge:.1f} of 255 codes at a typical step.",
            )
        )
    # Grain scatters in patches too: 2.8 times its deviation at the 99th percentile of the largest of three channels.
    # Overshoot that was cut off at the ends of the range, there or beside it, ripples by up to 0.8 of what edges lean.
    explained = max(2.9 * found.grain, 0.8 * abs(found.edge) if leaning else 0.0)
    if found.ripple > RIPPLE_AT and found.ripple > 1.3 * explained:
        claimed.append(
            Effect(
                "compression",
                "Compression",
                found.ripple,
                f"Small patches ripple by up to {found.ripple:.1f} of 255 codes where flat greys stay flat.",
            )
        )
    return tuple(sorted(claimed, key=lambda effect: -effect.codes))
