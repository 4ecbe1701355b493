"""Made-up people, companies and buildings."""

GIVEN = """Ines Ivor Mara Tomas Edda Bruno Lena Oskar Petra Hugo Signe Rafael Nora Anton Freya Milan Greta Jonas Alma
Viktor Ilse Caspar Runa Emil Tilda Leo Hanne Marek Elsa Arvid Wanda Felix Svea Otis Paula Rune Clara Ivan Thea Magnus
Sibyl Ezra Nell Piet Zora Anselm Birte Corin""".split()
FAMILY = """Falk Brandt Tarn Quill Stroud Maddox Vane Ferrow Holm Pryce Lindqvist Oakes Radley Sorrel Thorne Underhay
Vickers Wren Yates Ashdown Birkett Calloway Denholm Elphick Farrow Garrick Hesketh Ingram Jessop Kestle Larkin Merrow
Nayland Orchard Penrose Quayle Rusk Selby Tolland Upjohn Vasey Winslade""".split()
COMPANIES = """Harbourside Seagate Tidewater Northlock Varnholm Copperfield Marram Lantern Beacon Saltmarsh Gannet Ropewalk
Millrace Orchard Fathom Stonegate Kingfisher Amberline Driftwood Hillcrest Fairhaven Westering Longmoor Greyfriars Redpoint
Silverline Castlebank Ferrygate Windmill Bellfield""".split()
KINDS = """Housing Association|Offices|Hotels|Logistics|Property|Retail Park|Care Homes|Storage|Foods|Estates|Shipping|Stores|
Residents' Co-operative|Medical Centre|Trust""".replace("\n", "").split("|")
LANDMARKS = (
    ("Varnholm General Hospital", "Main Building", "Millrace", 9),
    ("University of Varn", "Library", "Northlock", 5),
    ("University of Varn", "Chemistry Tower", "Northlock", 4),
    ("Varn Ferries", "Ferry Terminal", "Old Quay", 6),
    ("Varnholm Airfield Ltd", "Departures", "Airfield", 5),
    ("City of Varnholm", "Town Hall", "Old Quay", 4),
    ("City of Varnholm", "Central Library", "Ropewalk", 3),
    ("Gull Point Cold Store", "Cold Store", "Gull Point", 5),
)
BUILDINGS = "House Court Tower Hall Building Works Arcade Centre Lodge Wharf Mansions Gallery".split()
ACCESS = (
    "Key at the porter's desk.",
    "Machine room on the roof, code from the caretaker.",
    "Ring twice; the bell is slow.",
    "Park in the yard, not on the street.",
    "Site induction first, ten minutes.",
    "",
    "",
    "",
    "",
)
