"""Where the bundled program begins."""

import sys

from yellow_hinge.cli.main import main

sys.exit(main())
