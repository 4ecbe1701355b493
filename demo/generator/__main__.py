"""Write demo/region/ anew: `python -m demo.generator`."""

from pathlib import Path

from demo.generator.collections import write_region

if __name__ == "__main__":
    write_region(Path(__file__).parent.parent / "region")
