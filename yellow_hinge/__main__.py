"""`python -m yellow_hinge`."""

import sys

from yellow_hinge.cli.main import main

sys.exit(main())
