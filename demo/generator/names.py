"""Made-up street names, each given once."""

import numpy as np

_FIRST = """Amber Anchor Apron Ash Barley Basin Beacon Bell Birch Bobbin Bollard Brine Briar Brook Cable Candle Canvas
Capstan Chandler Clay Clover Cobble Cooper Coral Cordage Crane Curlew Dock Dove Drift Eel Elder Ember Fathom Fennel Fern
Ferry Flax Flint Foundry Furrow Gannet Garnet Glass Granary Gravel Hawser Hazel Heron Hemp Hollow Hook Iron Ivy Juniper
Keel Kelp Kiln Ladder Lamp Lantern Larch Lark Lime Linen Lock Loom Mallow Marl Marram Mast Meadow Mill Mint Moss Nettle
Oar Oak Orchard Osier Otter Paddle Pear Peat Pebble Petrel Pilot Plover Plum Pulley Quarry Quill Quince Raven Reed Rigger
Rope Rowan Rudder Rush Rust Sable Saffron Sail Sallow Salt Sand Sedge Shale Shingle Skiff Slate Sloe Sluice Spindle Spruce
Starling Stone Swan Swift Tallow Tar Teal Tern Thatch Thistle Thorn Tide Timber Tinder Trawl Turnstone Twine Vane Vetch
Wagon Walnut Warp Weir Wharf Wheat Willow Winch Wren Yarrow Yew""".split()
_LAST = ["Street", "Lane", "Row", "Walk", "Yard", "Place", "Terrace", "Way", "Rise", "Close"]


class StreetNames:
    """Every name comes up once, in an order that the seed decides."""

    def __init__(self, random: np.random.Generator) -> None:
        every = [f"{first} {last}" for first in _FIRST for last in _LAST]
        self._left = [every[index] for index in random.permutation(len(every))]

    def take(self) -> str:
        return self._left.pop()
