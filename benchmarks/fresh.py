"""A builder that knows nothing yet, so that a first solve is one."""

from yellow_hinge.core.leading.chain.lattice import Builder
from yellow_hinge.core.leading.chain.making import forget_stages


def fresh() -> Builder:
    """A builder in a process that keeps no stages of other songs."""
    forget_stages()
    return Builder()
