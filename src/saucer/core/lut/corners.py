"""The one exotic piece: a lattice corner as a 4-wide load. `kernels.py` has the plain loop it is tested against."""

from __future__ import annotations

from typing import Any

from llvmlite import ir
from numba.core import types
from numba.extending import intrinsic


@intrinsic
def blend_corners(
    typing: Any, lattice: Any, across: Any, p0: Any, p1: Any, p2: Any, w0: Any, w1: Any, w2: Any, w3: Any, out: Any, at: Any
) -> Any:
    """out[at:at+4] = w0 lattice[p0:p0+4] + w1 lattice[p1:p1+4] + w2 across[p2:p2+4] + w3 across[p0:p0+4].

    lattice: (4 * n**3,) float32, node-major, padded to 4 floats a node, 16-byte aligned; p: element offsets, multiples of 4
    across: the same, from the far corner of its first cell on; p2 may lie before it, by less than that
    out: float32 with at least 4 elements from `at` (the fourth is overwritten by the next pixel)
    """
    signature = types.void(lattice, across, p0, p1, p2, w0, w1, w2, w3, out, at)

    def generate(context: Any, builder: Any, sig: Any, args: Any) -> Any:
        near, far, target = (context.make_array(sig.args[one])(context, builder, args[one]).data for one in (0, 1, 9))
        vector, lane = ir.VectorType(ir.FloatType(), 4), ir.IntType(32)
        undefined, splat = ir.Constant(vector, ir.Undefined), ir.Constant(ir.VectorType(lane, 4), [0] * 4)
        total = None
        for corner, (source, offset) in enumerate(((near, args[2]), (near, args[3]), (far, args[4]), (far, args[2]))):
            place = builder.gep(source, [offset])
            node = builder.load(builder.bitcast(place, vector.as_pointer()), align=16)
            weight = builder.insert_element(undefined, args[5 + corner], ir.Constant(lane, 0))
            term = builder.fmul(node, builder.shuffle_vector(weight, undefined, splat), flags=("contract",))
            total = term if total is None else builder.fadd(total, term, flags=("contract",))
        builder.store(total, builder.bitcast(builder.gep(target, [args[10]]), vector.as_pointer()), align=4)
        return context.get_dummy_value()

    return signature, generate
