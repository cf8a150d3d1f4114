"""python -m nubilis.cli"""

import sys

from nubilis.cli.main import main

sys.exit(main())
