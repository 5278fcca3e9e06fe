"""What the demo workshop sells: a catalogue, a van and a shelf, figures; all of it invented."""

from datetime import datetime
from uuid import UUID, uuid5

from people.may import Member
from people.models import Workshop
from stock import catalogue, figures, shelves
from stock.models import CatalogueItem, Movement, Reckoning, Store

SHEET = """\
number,kind,text,original,contains,fits,superseded_by,supplier,price,days,resets,opens_at,closes_at,voltage,current,terminals,power,r25
ND-3610,blower_wheel,"36 vanes, hub for a clamp",yes,,,,Northdale Supply,31.40,2,,,,,,,,
ND-3610,blower_wheel,"36 vanes, hub for a clamp",yes,,,,Osier & Reed,33.90,1,,,,,,,,
OR-44,blower_wheel,"36 vanes, with clamp",no,wheel_clamp,,,Osier & Reed,36.00,1,,,,,,,,
ND-0361,wheel_clamp,"two halves, one screw",yes,,,,Northdale Supply,9.20,2,,,,,,,,
ND-7700,motor,with its pulley,yes,motor_pulley,,,Northdale Supply,148.00,5,,,,,,,,
OR-77,motor,,no,,,,Osier & Reed,96.50,3,,,,,,,,
ND-2501,high_limit,heater box,yes,,,,Northdale Supply,14.10,2,self,250 degF,200 degF,250 V,25 A,2,,
OR-25,high_limit,heater box,no,,,,Osier & Reed,8.60,1,self,250 degF,200 degF,250 V,25 A,2,,
OR-20,high_limit,"heater box, looks the same",no,,,,Osier & Reed,7.90,1,self,205 degF,170 degF,250 V,25 A,2,,
ND-1960,thermal_fuse,"blower housing, one-shot",yes,,,,Northdale Supply,11.70,2,no,196 degF,,250 V,15 A,2,,
OR-19,thermal_fuse,one-shot,no,,,,Osier & Reed,6.30,1,no,196 degF,,250 V,15 A,2,,
ND-1550,cycling_thermostat,exhaust,yes,,,,Northdale Supply,19.80,2,self,155 degF,130 degF,250 V,25 A,4,,
ND-5400,heating_element,,yes,,,,Northdale Supply,62.00,4,,,,240 V,,2,5400 W,
ND-0010,thermistor,exhaust,yes,,,,Northdale Supply,17.20,2,,,,,,2,,10 kohm
ND-0410,belt,,yes,,,,Northdale Supply,12.80,2,,,,,,,,
ND-0500,rollers,"pair, with washers and clips",yes,,,,Northdale Supply,24.60,2,,,,,,,,
ND-0520,idler,,yes,,,,Northdale Supply,16.90,2,,,,,,,,
ND-0800,foam_seal,"25 x 12 mm, by the metre",yes,,,,Northdale Supply,4.10,2,,,,,,,,
ND-0900,drum_seal,"felt, with its glue",yes,adhesive,,,Northdale Supply,28.00,3,,,,,,,,
ND-0901,front_seal,felt,yes,,,,Northdale Supply,22.50,3,,,,,,,,
OR-100,adhesive,high temperature,no,,,,Osier & Reed,7.40,1,,,,,,,,
OR-120,transition_duct,"semi-rigid, 4 in",no,,,,Osier & Reed,11.20,1,,,,,,,,
OR-121,clamps,"for 4 in, pair",no,,,,Osier & Reed,3.20,1,,,,,,,,
OR-130,metal_tape,roll,no,,,,Osier & Reed,6.80,1,,,,,,,,
OR-140,duct_24in,"4 in, galvanised",no,,,,Osier & Reed,7.80,1,,,,,,,,
OR-141,duct_60in,"4 in, galvanised",no,,,,Osier & Reed,15.60,1,,,,,,,,
OR-142,duct_500mm,"100 mm, galvanised",no,,,,Osier & Reed,6.90,1,,,,,,,,
OR-143,duct_1000mm,"100 mm, galvanised",no,,,,Osier & Reed,11.40,1,,,,,,,,
OR-145,duct_elbow,"90°, smooth",no,,,,Osier & Reed,6.20,1,,,,,,,,
OR-146,duct_support,"strap, with its screws into the joist",no,,,,Osier & Reed,1.90,1,,,,,,,,
OR-147,hood,"4 in, with a flap",no,,,,Osier & Reed,18.40,1,,,,,,,,
OR-148,sealant,cartridge,no,,,,Osier & Reed,5.30,1,,,,,,,,
ND-OLD36,blower_wheel,,yes,,,ND-3610,,,,,,,,,,,
"""
#: What lies where: how many of a number.
THERE = {
    "Ines's van": {"ND-0361": 2, "ND-3610": 1, "OR-19": 3, "ND-0410": 2, "OR-121": 4, "OR-130": 1},
    "Shelf": {"ND-3610": 3, "ND-2501": 2, "ND-1960": 4, "ND-0800": 6},
}
_FIGURES = {
    "hour": "72", "call_out": "38.00", "second_trip": "56.00", "delivery": "6.50", "machine": "640", "assembly": "290",
    "markup_percent": "15", "tax_percent": "20", "taxed": "all", "rounds": "total",
}  # fmt: skip


def take_away(workshop: Workshop) -> None:
    """Take away what it sells."""
    for model in (Movement, Store, CatalogueItem, Reckoning):
        model._default_manager.filter(workshop=workshop).delete()


def lay_out(lead: Member, world: UUID, at: datetime) -> None:
    """Bring the catalogue in, fill van and shelf, say the figures; through the app's own services."""
    catalogue.bring_in(lead, SHEET.encode(), whole=True)
    for name, counts in THERE.items():
        store = uuid5(world, f"store/{name}")
        shelves.keep_store(lead, store, name, removed=False)
        for number, count in counts.items():
            shelves.move(lead, uuid5(store, number), store, number, count, at)
    figures.keep(lead, _FIGURES, 1)
