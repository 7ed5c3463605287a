// Generated from the core by scripts/generate_types.py; do not edit.
import type { BuildFile } from './client';
import type { FigureSpec, KindSpec, QuantitySpec, QuestionSpec, StationSpec } from './specs';

export const FIGURES: Record<string, FigureSpec> = {
 "format": {
  "title": "Format"
 },
 "version": {
  "title": "Version"
 },
 "name": {
  "title": "Name",
  "longest": 120
 },
 "stage": {
  "title": "Stage",
  "choices": [
   "planned",
   "building",
   "riding"
  ]
 },
 "currency": {
  "title": "Currency"
 },
 "rider.mass_kg": {
  "title": "Rider",
  "about": "dressed to ride",
  "quantity": "body_mass",
  "low": 20,
  "high": 200,
  "measurable": true
 },
 "rider.height_m": {
  "title": "Height",
  "quantity": "body_height",
  "low": 1.0,
  "high": 2.3
 },
 "rider.carried_kg": {
  "title": "Carried",
  "about": "bag, lock, shopping",
  "quantity": "body_mass",
  "low": 0,
  "high": 60
 },
 "rider.stance": {
  "title": "Stance",
  "choices": [
   "upright",
   "relaxed",
   "crouched"
  ]
 },
 "brief.use": {
  "title": "What for",
  "choices": [
   "commute",
   "cruise",
   "touring",
   "rough_ground"
  ]
 },
 "brief.top_speed_kmh": {
  "title": "Top speed wanted",
  "quantity": "speed",
  "low": 5,
  "high": 120
 },
 "brief.cruise_kmh": {
  "title": "Cruising speed",
  "about": "what is really ridden",
  "quantity": "speed",
  "low": 5,
  "high": 80
 },
 "brief.mean_kmh": {
  "title": "Mean speed on the move",
  "about": "kilometres over minutes of one usual ride, standing time taken out",
  "quantity": "speed",
  "low": 3,
  "high": 90,
  "measurable": true
 },
 "brief.range_km": {
  "title": "Distance in a day",
  "quantity": "distance",
  "low": 0.5,
  "high": 300
 },
 "brief.reserve_pct": {
  "title": "Reserve",
  "about": "charge to come home with",
  "quantity": "share",
  "low": 0,
  "high": 60
 },
 "brief.range_means": {
  "title": "That distance is meant",
  "about": "until the controller cuts off, home with the reserve, or so even on the worst day",
  "choices": [
   "to_cut_off",
   "with_reserve",
   "worst_day"
  ]
 },
 "brief.ascent_m_per_km": {
  "title": "Climb on the way",
  "about": "metres up in a kilometre, mean of the ride",
  "quantity": "ascent",
  "low": 0,
  "high": 150,
  "measurable": true
 },
 "brief.stops_per_km": {
  "title": "Stops on the way",
  "about": "to a standstill and away again",
  "quantity": "stops",
  "low": 0,
  "high": 20,
  "measurable": true
 },
 "brief.wind_ms": {
  "title": "Usual wind",
  "about": "along the way, as felt by a standing rider",
  "quantity": "wind",
  "low": 0,
  "high": 25
 },
 "brief.wind": {
  "title": "The wind is met",
  "about": "out and back over the same way unless said",
  "choices": [
   "out_and_back",
   "against",
   "behind",
   "across"
  ]
 },
 "brief.rides": {
  "title": "How it is ridden",
  "about": "easy: coasts and plans ahead; hard: always all of it",
  "choices": [
   "easy",
   "usual",
   "hard"
  ]
 },
 "brief.hill_grade_pct": {
  "title": "Steepest hill",
  "quantity": "grade",
  "low": 0,
  "high": 60
 },
 "brief.hill_rise_m": {
  "title": "Rise of that hill",
  "about": "with its length, instead of the grade",
  "quantity": "way",
  "low": 0.5,
  "high": 3000
 },
 "brief.hill_length_m": {
  "title": "Length of that hill",
  "quantity": "way",
  "low": 5,
  "high": 20000
 },
 "brief.hill_minutes": {
  "title": "Time on that hill",
  "about": "instead of its length",
  "quantity": "minutes",
  "low": 0.1,
  "high": 240
 },
 "brief.budget": {
  "title": "Money to spend",
  "quantity": "money",
  "low": 0,
  "high": 100000
 },
 "brief.carry_mass_kg": {
  "title": "What can be carried",
  "quantity": "body_mass",
  "low": 1,
  "high": 60
 },
 "brief.surface": {
  "title": "Surface",
  "choices": [
   "smooth_asphalt",
   "fair_asphalt",
   "rough_asphalt",
   "boardwalk",
   "packed_gravel"
  ]
 },
 "brief.temperature_c": {
  "title": "Temperature",
  "quantity": "temperature",
  "low": -30,
  "high": 50
 },
 "brief.altitude_m": {
  "title": "Height above sea",
  "quantity": "way",
  "low": -400,
  "high": 5000
 },
 "brief.wet": {
  "title": "Ridden in the wet",
  "yesNo": true
 },
 "brief.local_speed_limit_kmh": {
  "title": "Local speed limit",
  "about": "as the builder found out; rules differ from place to place",
  "quantity": "speed",
  "low": 3,
  "high": 120
 },
 "brief.quiet_zone_kmh": {
  "title": "Speed in a quiet zone",
  "about": "where one lies on the way",
  "quantity": "speed",
  "low": 3,
  "high": 60
 },
 "brief.local_rules": {
  "title": "Local rules",
  "about": "what was found out, and from whom",
  "longest": 2000
 },
 "parts.deck.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.deck.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.deck.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.deck.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.deck.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.deck.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.deck.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.deck.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.deck.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.deck.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.deck.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.deck.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.deck.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.deck.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.deck.length_mm": {
  "title": "Length",
  "quantity": "length",
  "low": 400,
  "high": 1500,
  "measurable": true
 },
 "parts.deck.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 120,
  "high": 400,
  "measurable": true
 },
 "parts.deck.thickness_mm": {
  "title": "Thickness",
  "quantity": "length",
  "low": 4,
  "high": 60,
  "measurable": true
 },
 "parts.deck.wheelbase_mm": {
  "title": "Wheelbase",
  "about": "between the axles",
  "quantity": "length",
  "low": 250,
  "high": 1200,
  "measurable": true
 },
 "parts.deck.mount": {
  "title": "Mounting",
  "about": "drop-through lowers the rider and costs about 13 mm of clearance",
  "choices": [
   "top",
   "drop_through",
   "dropped"
  ]
 },
 "parts.deck.concave_mm": {
  "title": "Concave",
  "about": "depth of the hollow across the deck",
  "quantity": "length",
  "low": 0,
  "high": 40,
  "measurable": true
 },
 "parts.deck.rocker_mm": {
  "title": "Rocker",
  "about": "how far the middle hangs below the mounts; negative is camber",
  "quantity": "length",
  "low": -40,
  "high": 60,
  "measurable": true
 },
 "parts.deck.flex": {
  "title": "Flex",
  "choices": [
   "stiff",
   "medium",
   "soft"
  ]
 },
 "parts.deck.cutouts": {
  "title": "Wheel cutouts",
  "about": "the deck is cut away above the wheels",
  "yesNo": true
 },
 "parts.deck.tail_mm": {
  "title": "Tail",
  "about": "length behind the rear truck's mount; 0 for none",
  "quantity": "length",
  "low": 0,
  "high": 250,
  "measurable": true
 },
 "parts.deck.front_axle_mm": {
  "title": "Front axle",
  "about": "from the nose; in the middle of what is left unless said",
  "quantity": "length",
  "low": -60,
  "high": 500,
  "measurable": true
 },
 "parts.deck.ends_deg": {
  "title": "Ends bent up by",
  "about": "where the trucks are bolted on; 0 for a deck that is flat there",
  "quantity": "angle",
  "low": 0,
  "high": 50,
  "measurable": true
 },
 "parts.deck.bend_mm": {
  "title": "From bend to bolts",
  "about": "along the end, to the truck's middle",
  "quantity": "length",
  "low": 30,
  "high": 250,
  "measurable": true
 },
 "parts.deck.moved_mm": {
  "title": "Rear truck moved back",
  "about": "from the holes that the deck came with: new ones are drilled",
  "quantity": "length",
  "low": -200,
  "high": 200,
  "measurable": true
 },
 "parts.deck.routed_mm": {
  "title": "Routed out",
  "about": "depth taken out of the underside for the box",
  "quantity": "length",
  "low": 0,
  "high": 40,
  "measurable": true
 },
 "parts.deck.routed_length_mm": {
  "title": "Routed length",
  "quantity": "length",
  "low": 20,
  "high": 1200,
  "measurable": true
 },
 "parts.deck.routed_width_mm": {
  "title": "Routed width",
  "quantity": "length",
  "low": 20,
  "high": 380,
  "measurable": true
 },
 "parts.deck.wood": {
  "title": "Made of",
  "about": "for its stiffness and strength; plies run mostly along unless said",
  "choices": [
   "maple",
   "birch",
   "bamboo",
   "composite"
  ]
 },
 "parts.deck.curve.*.at_mm": {
  "title": "From the nose",
  "quantity": "length",
  "low": 0,
  "high": 1500,
  "measurable": true
 },
 "parts.deck.curve.*.below_mm": {
  "title": "Hangs below",
  "about": "a straight edge from mount to mount; negative where it is above",
  "quantity": "length",
  "low": -40,
  "high": 80,
  "measurable": true
 },
 "parts.deck.curve.*.hollow_mm": {
  "title": "Hollow across",
  "about": "of the underside, edge to edge",
  "quantity": "length",
  "low": 0,
  "high": 40,
  "measurable": true
 },
 "parts.trucks.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.trucks.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.trucks.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.trucks.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.trucks.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.trucks.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.trucks.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.trucks.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.trucks.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.trucks.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.trucks.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.trucks.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.trucks.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.trucks.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.trucks.hanger_mm": {
  "title": "Hanger width",
  "quantity": "length",
  "low": 80,
  "high": 400,
  "measurable": true
 },
 "parts.trucks.axle_mm": {
  "title": "Axle length",
  "about": "tip to tip",
  "quantity": "length",
  "low": 120,
  "high": 520,
  "measurable": true
 },
 "parts.trucks.height_mm": {
  "title": "Height",
  "about": "axle centre below the baseplate",
  "quantity": "length",
  "low": 25,
  "high": 150,
  "measurable": true
 },
 "parts.trucks.profile": {
  "title": "Hanger profile",
  "about": "the cross-section that a motor mount has to clamp",
  "longest": 30
 },
 "parts.trucks.lean_deg": {
  "title": "Largest lean",
  "about": "how far the deck leans in a full turn",
  "quantity": "angle",
  "low": 2,
  "high": 40,
  "measurable": true
 },
 "parts.trucks.pivots": {
  "title": "Pivots",
  "about": "double-pivot trucks turn more and are unsettled when fast",
  "quantity": "count",
  "low": 1,
  "high": 2,
  "whole": true
 },
 "parts.wheels.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.wheels.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.wheels.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.wheels.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.wheels.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.wheels.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.wheels.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.wheels.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.wheels.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.wheels.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.wheels.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.wheels.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.wheels.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.wheels.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.wheels.diameter_mm": {
  "title": "Diameter",
  "quantity": "length",
  "low": 40,
  "high": 400,
  "measurable": true
 },
 "parts.wheels.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 15,
  "high": 150,
  "measurable": true
 },
 "parts.wheels.hardness_a": {
  "title": "Hardness",
  "about": "durometer, A scale",
  "quantity": "hardness",
  "low": 50,
  "high": 105,
  "measurable": true
 },
 "parts.wheels.kind": {
  "title": "Kind",
  "choices": [
   "urethane",
   "rubber",
   "pneumatic"
  ]
 },
 "parts.wheels.core": {
  "title": "Core",
  "about": "the window pattern that a wheel pulley keys into",
  "longest": 40
 },
 "parts.wheels.in_set": {
  "title": "Wheels in the price",
  "about": "a set of four unless said",
  "quantity": "count",
  "low": 1,
  "high": 4,
  "whole": true,
  "group": "listing"
 },
 "parts.risers.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.risers.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.risers.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.risers.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.risers.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.risers.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.risers.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.risers.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.risers.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.risers.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.risers.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.risers.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.risers.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.risers.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.risers.height_mm": {
  "title": "Height",
  "quantity": "length",
  "low": 0,
  "high": 50,
  "measurable": true
 },
 "parts.spreaders.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.spreaders.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.spreaders.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.spreaders.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.spreaders.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.spreaders.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.spreaders.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.spreaders.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.spreaders.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.spreaders.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.spreaders.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.spreaders.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.spreaders.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.spreaders.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.spreaders.height_mm": {
  "title": "Thickness",
  "quantity": "length",
  "low": 0.5,
  "high": 10,
  "measurable": true
 },
 "parts.spreaders.length_mm": {
  "title": "Length",
  "quantity": "length",
  "low": 40,
  "high": 200,
  "measurable": true
 },
 "parts.spreaders.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 30,
  "high": 150,
  "measurable": true
 },
 "parts.motors.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.motors.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.motors.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.motors.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.motors.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.motors.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.motors.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.motors.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.motors.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.motors.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.motors.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.motors.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.motors.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.motors.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.motors.count": {
  "title": "Motors",
  "quantity": "count",
  "low": 1,
  "high": 4,
  "whole": true,
  "group": "board"
 },
 "parts.motors.kind": {
  "title": "Kind",
  "choices": [
   "outrunner",
   "hub",
   "direct"
  ]
 },
 "parts.motors.kv_rpm_per_v": {
  "title": "KV",
  "about": "no-load speed per volt",
  "quantity": "motor_constant",
  "low": 15,
  "high": 6000,
  "measurable": true
 },
 "parts.motors.can_diameter_mm": {
  "title": "Can diameter",
  "quantity": "length",
  "low": 15,
  "high": 200,
  "measurable": true
 },
 "parts.motors.can_length_mm": {
  "title": "Can length",
  "quantity": "length",
  "low": 10,
  "high": 200,
  "measurable": true
 },
 "parts.motors.phase_resistance_mohm": {
  "title": "Phase resistance",
  "about": "at 25 °C",
  "quantity": "resistance",
  "low": 0.5,
  "high": 2000,
  "measurable": true
 },
 "parts.motors.resistance_is": {
  "title": "Resistance is given",
  "about": "sellers mostly give line to line, twice the phase's own",
  "choices": [
   "line_to_neutral",
   "line_to_line"
  ]
 },
 "parts.motors.pole_pairs": {
  "title": "Pole pairs",
  "quantity": "count",
  "low": 1,
  "high": 50,
  "whole": true
 },
 "parts.motors.no_load_current_a": {
  "title": "No-load current",
  "quantity": "current",
  "low": 0,
  "high": 60,
  "measurable": true
 },
 "parts.motors.no_load_is": {
  "title": "No-load current is",
  "about": "the pack's, as sellers give it, or the motor's, as a controller shows it",
  "choices": [
   "pack",
   "motor"
  ]
 },
 "parts.motors.max_current_a": {
  "title": "Largest current",
  "quantity": "current",
  "low": 1,
  "high": 500,
  "measurable": true
 },
 "parts.motors.max_power_w": {
  "title": "Largest power",
  "about": "makers' figures are peaks",
  "quantity": "power",
  "low": 10,
  "high": 30000,
  "measurable": true
 },
 "parts.motors.shaft_mm": {
  "title": "Shaft",
  "quantity": "length",
  "low": 2,
  "high": 25,
  "measurable": true
 },
 "parts.motors.sensored": {
  "title": "Hall sensors",
  "yesNo": true
 },
 "parts.motors.plug": {
  "title": "Phase plugs",
  "about": "such as 4 mm bullet",
  "longest": 30
 },
 "parts.drive.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.drive.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.drive.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.drive.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.drive.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.drive.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.drive.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.drive.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.drive.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.drive.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.drive.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.drive.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.drive.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.drive.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.drive.kind": {
  "title": "Kind",
  "choices": [
   "belt",
   "hub",
   "direct",
   "gear",
   "chain"
  ]
 },
 "parts.drive.motor_teeth": {
  "title": "Motor pulley teeth",
  "quantity": "count",
  "low": 5,
  "high": 80,
  "whole": true
 },
 "parts.drive.wheel_teeth": {
  "title": "Wheel pulley teeth",
  "quantity": "count",
  "low": 5,
  "high": 200,
  "whole": true
 },
 "parts.drive.pitch_mm": {
  "title": "Belt pitch",
  "quantity": "length",
  "low": 1.5,
  "high": 15,
  "measurable": true
 },
 "parts.drive.belt_width_mm": {
  "title": "Belt width",
  "quantity": "length",
  "low": 4,
  "high": 50,
  "measurable": true
 },
 "parts.drive.belt_teeth": {
  "title": "Belt teeth",
  "quantity": "count",
  "low": 20,
  "high": 400,
  "whole": true
 },
 "parts.drive.idler": {
  "title": "Idler",
  "yesNo": true
 },
 "parts.drive.mount_profile": {
  "title": "Mount clamps",
  "about": "the hanger profile that the motor mount is made for",
  "longest": 30
 },
 "parts.drive.mount_angle_deg": {
  "title": "Mount angle",
  "about": "how far the motor stands above the line from axle to nose",
  "quantity": "angle",
  "low": -60,
  "high": 90,
  "measurable": true
 },
 "parts.drive.motor_place": {
  "title": "Motor stands",
  "about": "before the axle, under the deck, or behind it",
  "choices": [
   "before",
   "behind"
  ]
 },
 "parts.drive.wheel_core": {
  "title": "Pulley keys into",
  "about": "the wheel core that the wheel pulley is made for",
  "longest": 40
 },
 "parts.drive.pulley_fixing": {
  "title": "Wheel pulley",
  "about": "with its own bearing it takes some 7 mm more axle",
  "choices": [
   "bolted",
   "own_bearing"
  ]
 },
 "parts.drive.pulley_material": {
  "title": "Wheel pulley's material",
  "choices": [
   "metal",
   "plastic"
  ]
 },
 "parts.drive.bore_mm": {
  "title": "Motor pulley bore",
  "quantity": "length",
  "low": 2,
  "high": 25,
  "measurable": true
 },
 "parts.drive.driven_wheels": {
  "title": "Driven wheels",
  "quantity": "count",
  "low": 1,
  "high": 4,
  "whole": true
 },
 "parts.mount.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.mount.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.mount.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.mount.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.mount.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.mount.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.mount.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.mount.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.mount.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.mount.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.mount.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.mount.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.mount.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.mount.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.mount.profile": {
  "title": "Clamps",
  "about": "the hanger profile that it is made for",
  "longest": 30
 },
 "parts.mount.angle_deg": {
  "title": "Angle",
  "about": "how far the motor stands above the line from axle to nose, or to tail behind it",
  "quantity": "angle",
  "low": -60,
  "high": 90,
  "measurable": true
 },
 "parts.mount.idler": {
  "title": "Has an idler",
  "yesNo": true
 },
 "parts.mount.plate_mm": {
  "title": "Plate",
  "about": "its thickness on the hanger",
  "quantity": "length",
  "low": 3,
  "high": 20,
  "measurable": true
 },
 "parts.mount.slot_mm": {
  "title": "Slots",
  "about": "how far the motor can be slid to tension the belt",
  "quantity": "length",
  "low": 0,
  "high": 40,
  "measurable": true
 },
 "parts.covers.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.covers.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.covers.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.covers.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.covers.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.covers.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.covers.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.covers.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.covers.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.covers.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.covers.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.covers.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.covers.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.covers.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.covers.over": {
  "title": "Over",
  "choices": [
   "belts",
   "motors",
   "both"
  ]
 },
 "parts.covers.width_mm": {
  "title": "Stands out",
  "about": "beside the pulley or round the motor",
  "quantity": "length",
  "low": 2,
  "high": 60,
  "measurable": true
 },
 "parts.pack.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.pack.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.pack.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.pack.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.pack.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.pack.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.pack.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.pack.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.pack.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.pack.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.pack.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.pack.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.pack.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.pack.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.pack.series": {
  "title": "Cells in series",
  "quantity": "count",
  "low": 1,
  "high": 24,
  "whole": true
 },
 "parts.pack.parallel": {
  "title": "Cells in parallel",
  "quantity": "count",
  "low": 1,
  "high": 60,
  "whole": true
 },
 "parts.pack.layout": {
  "title": "Layout",
  "choices": [
   "flat",
   "stacked",
   "bricks"
  ]
 },
 "parts.pack.cell.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.pack.cell.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.pack.cell.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.pack.cell.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.pack.cell.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.pack.cell.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.pack.cell.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.pack.cell.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.pack.cell.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.pack.cell.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.pack.cell.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.pack.cell.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.pack.cell.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.pack.cell.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.pack.cell.chemistry": {
  "title": "Chemistry",
  "choices": [
   "nmc",
   "nca",
   "lfp",
   "polymer"
  ]
 },
 "parts.pack.cell.origin": {
  "title": "Cells are",
  "about": "salvaged cells cost a third and vary; measure and match them",
  "choices": [
   "new",
   "salvaged"
  ]
 },
 "parts.pack.cell.size": {
  "title": "Size",
  "about": "such as 18650, 21700, or brick",
  "longest": 30
 },
 "parts.pack.cell.capacity_ah": {
  "title": "Capacity",
  "about": "from full to empty, slowly",
  "quantity": "charge",
  "low": 0.3,
  "high": 120,
  "measurable": true
 },
 "parts.pack.cell.nominal_v": {
  "title": "Nominal voltage",
  "quantity": "voltage",
  "low": 2.5,
  "high": 4.0,
  "measurable": true
 },
 "parts.pack.cell.full_v": {
  "title": "Voltage when full",
  "quantity": "voltage",
  "low": 3.3,
  "high": 4.5,
  "measurable": true
 },
 "parts.pack.cell.empty_v": {
  "title": "Voltage when empty",
  "quantity": "voltage",
  "low": 1.8,
  "high": 3.6,
  "measurable": true
 },
 "parts.pack.cell.max_discharge_a": {
  "title": "Largest discharge current",
  "quantity": "current",
  "low": 0.3,
  "high": 5000,
  "measurable": true
 },
 "parts.pack.cell.max_charge_a": {
  "title": "Largest charge current",
  "quantity": "current",
  "low": 0.05,
  "high": 1000,
  "measurable": true
 },
 "parts.pack.cell.resistance_mohm": {
  "title": "Resistance",
  "about": "direct current, ten-second pulse, 25 °C, half charged",
  "quantity": "resistance",
  "low": 0.1,
  "high": 500,
  "measurable": true
 },
 "parts.pack.cell.cycles_to_80_pct": {
  "title": "Cycles to 80 %",
  "quantity": "count",
  "low": 10,
  "high": 20000
 },
 "parts.pack.bricks": {
  "title": "Bricks",
  "about": "charged one after the other",
  "quantity": "count",
  "low": 1,
  "high": 12,
  "whole": true
 },
 "parts.pack.weakest_brick_ah": {
  "title": "Smallest brick",
  "about": "capacity of the smallest, where bricks in series differ",
  "quantity": "charge",
  "low": 0.3,
  "high": 120,
  "measurable": true
 },
 "parts.pack.length_mm": {
  "title": "Length",
  "about": "of the block, or of one brick",
  "quantity": "length",
  "low": 20,
  "high": 1000,
  "measurable": true
 },
 "parts.pack.width_mm": {
  "title": "Width",
  "about": "of the block, or of one brick",
  "quantity": "length",
  "low": 10,
  "high": 400,
  "measurable": true
 },
 "parts.pack.height_mm": {
  "title": "Height",
  "about": "of the block, or of one brick",
  "quantity": "length",
  "low": 5,
  "high": 200,
  "measurable": true
 },
 "parts.pack.plug": {
  "title": "Drive plug",
  "about": "such as 5 mm bullet",
  "longest": 30
 },
 "parts.pack.charge_plug": {
  "title": "Charge port",
  "longest": 30
 },
 "parts.pack.health_pct": {
  "title": "Capacity left",
  "about": "100 when new; an old pack has less and sags more",
  "quantity": "share",
  "low": 40,
  "high": 110,
  "measurable": true
 },
 "parts.pack.place": {
  "title": "Carried",
  "about": "in a box, in a case on the deck, or in the rider's bag on a lead",
  "choices": [
   "in_a_box",
   "on_the_deck",
   "in_a_bag"
  ]
 },
 "parts.pack.spares": {
  "title": "Packs to swap",
  "about": "further ones like it, carried along and swapped on the way",
  "quantity": "count",
  "low": 0,
  "high": 6,
  "whole": true,
  "group": "board"
 },
 "parts.pack.charge_to_v": {
  "title": "Charged to",
  "about": "per cell; at 4.1 V a cell instead of 4.2 V it about doubles its life",
  "quantity": "voltage",
  "low": 3.2,
  "high": 4.5,
  "measurable": true
 },
 "parts.pack.protection.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.pack.protection.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.pack.protection.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.pack.protection.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.pack.protection.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.pack.protection.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.pack.protection.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.pack.protection.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.pack.protection.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.pack.protection.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.pack.protection.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.pack.protection.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.pack.protection.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.pack.protection.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.pack.protection.max_discharge_a": {
  "title": "Largest discharge current",
  "quantity": "current",
  "low": 1,
  "high": 1000,
  "measurable": true
 },
 "parts.pack.protection.max_charge_a": {
  "title": "Largest charge current",
  "quantity": "current",
  "low": 0.2,
  "high": 500,
  "measurable": true
 },
 "parts.pack.protection.in_drive_path": {
  "title": "Carries the drive current",
  "about": "or only the charging current",
  "yesNo": true
 },
 "parts.pack.protection.series": {
  "title": "Made for cells in series",
  "quantity": "count",
  "low": 1,
  "high": 24,
  "whole": true
 },
 "parts.pack.protection.ports": {
  "title": "Ports",
  "about": "one for load and charger, or one for each",
  "choices": [
   "one",
   "two"
  ]
 },
 "parts.pack.protection.balances": {
  "title": "Balances the cells",
  "yesNo": true
 },
 "parts.pack.protection.cut_off_v": {
  "title": "Opens below",
  "about": "a cell; the load is let go of",
  "quantity": "cell_voltage",
  "low": 1.5,
  "high": 3.6,
  "measurable": true
 },
 "parts.pack.protection.ceiling_v": {
  "title": "Ends the charge above",
  "about": "a cell; some can be set",
  "quantity": "cell_voltage",
  "low": 3.3,
  "high": 4.5,
  "measurable": true
 },
 "parts.pack.protection.sensor": {
  "title": "Feels the cells' warmth",
  "about": "a sensor on a lead that lies between them",
  "yesNo": true
 },
 "parts.pack.protection.length_mm": {
  "title": "Length",
  "quantity": "length",
  "low": 10,
  "high": 200,
  "measurable": true
 },
 "parts.pack.protection.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 8,
  "high": 150,
  "measurable": true
 },
 "parts.pack.protection.height_mm": {
  "title": "Height",
  "quantity": "length",
  "low": 1,
  "high": 40,
  "measurable": true
 },
 "parts.controller.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.controller.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.controller.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.controller.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.controller.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.controller.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.controller.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.controller.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.controller.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.controller.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.controller.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.controller.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.controller.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.controller.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.controller.units": {
  "title": "Controllers",
  "quantity": "count",
  "low": 1,
  "high": 4,
  "whole": true,
  "group": "board"
 },
 "parts.controller.programmable": {
  "title": "Programmable",
  "yesNo": true
 },
 "parts.controller.max_v": {
  "title": "Largest voltage",
  "about": "with the pack full, not nominal",
  "quantity": "voltage",
  "low": 6,
  "high": 200,
  "measurable": true
 },
 "parts.controller.max_motor_current_a": {
  "title": "Largest motor current",
  "about": "each motor",
  "quantity": "current",
  "low": 1,
  "high": 1000,
  "measurable": true
 },
 "parts.controller.max_pack_current_a": {
  "title": "Largest pack current",
  "about": "each controller",
  "quantity": "current",
  "low": 1,
  "high": 1000,
  "measurable": true
 },
 "parts.controller.max_erpm": {
  "title": "Largest electrical speed",
  "quantity": "electrical_speed",
  "low": 1000,
  "high": 500000,
  "measurable": true
 },
 "parts.controller.fixed_cells": {
  "title": "Fixed cell count",
  "about": "what its solder jumper is set to",
  "quantity": "count",
  "low": 2,
  "high": 24,
  "whole": true
 },
 "parts.controller.motors": {
  "title": "Motors it drives",
  "about": "of one controller",
  "quantity": "count",
  "low": 1,
  "high": 4,
  "whole": true
 },
 "parts.controller.plug": {
  "title": "Pack plug",
  "longest": 30
 },
 "parts.controller.motor_plug": {
  "title": "Phase plugs",
  "longest": 30
 },
 "parts.controller.length_mm": {
  "title": "Length",
  "quantity": "length",
  "low": 20,
  "high": 400,
  "measurable": true
 },
 "parts.controller.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 15,
  "high": 300,
  "measurable": true
 },
 "parts.controller.height_mm": {
  "title": "Height",
  "quantity": "length",
  "low": 5,
  "high": 150,
  "measurable": true
 },
 "parts.charger.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.charger.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.charger.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.charger.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.charger.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.charger.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.charger.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.charger.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.charger.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.charger.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.charger.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.charger.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.charger.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.charger.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.charger.v": {
  "title": "Voltage",
  "quantity": "voltage",
  "low": 3,
  "high": 120,
  "measurable": true
 },
 "parts.charger.a": {
  "title": "Current",
  "quantity": "current",
  "low": 0.1,
  "high": 60,
  "measurable": true
 },
 "parts.charger.balance": {
  "title": "Balances the cells",
  "about": "bricks have no protection board to do it",
  "yesNo": true
 },
 "parts.charger.plug": {
  "title": "Plug",
  "longest": 30
 },
 "parts.charge_port.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.charge_port.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.charge_port.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.charge_port.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.charge_port.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.charge_port.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.charge_port.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.charge_port.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.charge_port.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.charge_port.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.charge_port.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.charge_port.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.charge_port.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.charge_port.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.charge_port.plug": {
  "title": "Plug",
  "longest": 30
 },
 "parts.charge_port.max_a": {
  "title": "Largest current",
  "quantity": "current",
  "low": 0.2,
  "high": 100,
  "measurable": true
 },
 "parts.charge_port.cap": {
  "title": "Has a cap",
  "about": "against spray and grit",
  "yesNo": true
 },
 "parts.charge_port.hole_mm": {
  "title": "Hole in the wall",
  "quantity": "length",
  "low": 5,
  "high": 40,
  "measurable": true
 },
 "parts.remote.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.remote.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.remote.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.remote.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.remote.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.remote.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.remote.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.remote.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.remote.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.remote.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.remote.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.remote.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.remote.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.remote.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.remote.link": {
  "title": "Link to the controller",
  "choices": [
   "serial",
   "pulse"
  ]
 },
 "parts.remote.runtime_h": {
  "title": "Lasts on a charge",
  "quantity": "hours",
  "low": 0.3,
  "high": 200,
  "measurable": true
 },
 "parts.remote.charge_plug": {
  "title": "Charged by",
  "longest": 30
 },
 "parts.switch.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.switch.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.switch.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.switch.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.switch.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.switch.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.switch.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.switch.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.switch.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.switch.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.switch.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.switch.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.switch.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.switch.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.switch.kind": {
  "title": "Kind",
  "choices": [
   "loop",
   "electronic",
   "none"
  ]
 },
 "parts.switch.max_v": {
  "title": "Largest voltage",
  "quantity": "voltage",
  "low": 5,
  "high": 200,
  "measurable": true
 },
 "parts.switch.max_a": {
  "title": "Largest current",
  "quantity": "current",
  "low": 1,
  "high": 1000,
  "measurable": true
 },
 "parts.fuse.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.fuse.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.fuse.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.fuse.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.fuse.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.fuse.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.fuse.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.fuse.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.fuse.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.fuse.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.fuse.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.fuse.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.fuse.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.fuse.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.fuse.a": {
  "title": "Rating",
  "quantity": "current",
  "low": 1,
  "high": 500,
  "measurable": true
 },
 "parts.wiring.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.wiring.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.wiring.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.wiring.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.wiring.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.wiring.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.wiring.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.wiring.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.wiring.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.wiring.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.wiring.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.wiring.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.wiring.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.wiring.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.wiring.awg": {
  "title": "Wire gauge",
  "quantity": "wire",
  "low": 2,
  "high": 24
 },
 "parts.wiring.length_mm": {
  "title": "Length",
  "about": "pack to controller, one way",
  "quantity": "length",
  "low": 50,
  "high": 10000,
  "measurable": true
 },
 "parts.wiring.connector_max_a": {
  "title": "Connectors' largest current",
  "quantity": "current",
  "low": 1,
  "high": 1000,
  "measurable": true
 },
 "parts.enclosure.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.enclosure.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.enclosure.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.enclosure.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.enclosure.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.enclosure.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.enclosure.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.enclosure.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.enclosure.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.enclosure.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.enclosure.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.enclosure.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.enclosure.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.enclosure.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.enclosure.length_mm": {
  "title": "Length",
  "quantity": "length",
  "low": 60,
  "high": 1200,
  "measurable": true
 },
 "parts.enclosure.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 40,
  "high": 400,
  "measurable": true
 },
 "parts.enclosure.depth_mm": {
  "title": "Depth",
  "about": "how far it hangs below the deck",
  "quantity": "length",
  "low": 10,
  "high": 150,
  "measurable": true
 },
 "parts.enclosure.wall_mm": {
  "title": "Wall",
  "quantity": "length",
  "low": 0.5,
  "high": 15,
  "measurable": true
 },
 "parts.enclosure.seat": {
  "title": "Sits on the deck",
  "about": "flat, on gasket foam, or moulded to the deck's shape",
  "choices": [
   "flat",
   "gasket",
   "moulded"
  ]
 },
 "parts.enclosure.place": {
  "title": "Stands",
  "about": "under the deck or on it",
  "choices": [
   "below",
   "above"
  ]
 },
 "parts.enclosure.holds": {
  "title": "Holds",
  "about": "with two boxes: the pack in one, the electronics in the other",
  "choices": [
   "all",
   "pack",
   "electronics"
  ]
 },
 "parts.enclosure.back_mm": {
  "title": "Moved back",
  "about": "from the middle of its room, towards the tail",
  "quantity": "length",
  "low": -400,
  "high": 400,
  "measurable": true
 },
 "parts.enclosure.material": {
  "title": "Made of",
  "choices": [
   "petg",
   "asa",
   "nylon",
   "glass_fibre",
   "wood",
   "sheet"
  ]
 },
 "parts.enclosure.flange_mm": {
  "title": "Flange",
  "about": "the rim that is screwed to the deck",
  "quantity": "length",
  "low": 6,
  "high": 60,
  "measurable": true
 },
 "parts.enclosure.bed_length_mm": {
  "title": "Printer's bed, length",
  "quantity": "length",
  "low": 80,
  "high": 1000,
  "measurable": true
 },
 "parts.enclosure.bed_width_mm": {
  "title": "Printer's bed, width",
  "quantity": "length",
  "low": 80,
  "high": 1000,
  "measurable": true
 },
 "parts.second_enclosure.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.second_enclosure.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.second_enclosure.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.second_enclosure.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.second_enclosure.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.second_enclosure.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.second_enclosure.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.second_enclosure.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.second_enclosure.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.second_enclosure.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.second_enclosure.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.second_enclosure.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.second_enclosure.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.second_enclosure.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.second_enclosure.length_mm": {
  "title": "Length",
  "quantity": "length",
  "low": 60,
  "high": 1200,
  "measurable": true
 },
 "parts.second_enclosure.width_mm": {
  "title": "Width",
  "quantity": "length",
  "low": 40,
  "high": 400,
  "measurable": true
 },
 "parts.second_enclosure.depth_mm": {
  "title": "Depth",
  "about": "how far it hangs below the deck",
  "quantity": "length",
  "low": 10,
  "high": 150,
  "measurable": true
 },
 "parts.second_enclosure.wall_mm": {
  "title": "Wall",
  "quantity": "length",
  "low": 0.5,
  "high": 15,
  "measurable": true
 },
 "parts.second_enclosure.seat": {
  "title": "Sits on the deck",
  "about": "flat, on gasket foam, or moulded to the deck's shape",
  "choices": [
   "flat",
   "gasket",
   "moulded"
  ]
 },
 "parts.second_enclosure.place": {
  "title": "Stands",
  "about": "under the deck or on it",
  "choices": [
   "below",
   "above"
  ]
 },
 "parts.second_enclosure.holds": {
  "title": "Holds",
  "about": "with two boxes: the pack in one, the electronics in the other",
  "choices": [
   "all",
   "pack",
   "electronics"
  ]
 },
 "parts.second_enclosure.back_mm": {
  "title": "Moved back",
  "about": "from the middle of its room, towards the tail",
  "quantity": "length",
  "low": -400,
  "high": 400,
  "measurable": true
 },
 "parts.second_enclosure.material": {
  "title": "Made of",
  "choices": [
   "petg",
   "asa",
   "nylon",
   "glass_fibre",
   "wood",
   "sheet"
  ]
 },
 "parts.second_enclosure.flange_mm": {
  "title": "Flange",
  "about": "the rim that is screwed to the deck",
  "quantity": "length",
  "low": 6,
  "high": 60,
  "measurable": true
 },
 "parts.second_enclosure.bed_length_mm": {
  "title": "Printer's bed, length",
  "quantity": "length",
  "low": 80,
  "high": 1000,
  "measurable": true
 },
 "parts.second_enclosure.bed_width_mm": {
  "title": "Printer's bed, width",
  "quantity": "length",
  "low": 80,
  "high": 1000,
  "measurable": true
 },
 "parts.loads.*.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.loads.*.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.loads.*.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.loads.*.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.loads.*.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.loads.*.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.loads.*.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.loads.*.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.loads.*.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.loads.*.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.loads.*.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.loads.*.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.loads.*.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.loads.*.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.loads.*.count": {
  "title": "How many",
  "quantity": "count",
  "low": 1,
  "high": 20,
  "whole": true,
  "group": "board"
 },
 "parts.loads.*.v": {
  "title": "Voltage",
  "quantity": "voltage",
  "low": 1.5,
  "high": 120,
  "measurable": true
 },
 "parts.loads.*.a": {
  "title": "Current",
  "about": "of one, on",
  "quantity": "current",
  "low": 0.005,
  "high": 20,
  "measurable": true
 },
 "parts.loads.*.supply": {
  "title": "Fed by",
  "about": "a converter, the whole pack, a battery of its own, or only some of the cells",
  "choices": [
   "converter",
   "pack",
   "own_battery",
   "some_cells"
  ]
 },
 "parts.kits.*.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.kits.*.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.kits.*.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.kits.*.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.kits.*.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.kits.*.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.kits.*.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.kits.*.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.kits.*.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.kits.*.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.kits.*.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.kits.*.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.kits.*.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.kits.*.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.extras.*.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "parts.extras.*.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "parts.extras.*.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "parts.extras.*.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "parts.extras.*.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "parts.extras.*.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "parts.extras.*.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "parts.extras.*.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "parts.extras.*.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "parts.extras.*.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "parts.extras.*.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing",
  "measurable": true
 },
 "parts.extras.*.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "parts.extras.*.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "parts.extras.*.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "parts.extras.*.count": {
  "title": "How many",
  "quantity": "count",
  "low": 1,
  "high": 500,
  "whole": true,
  "group": "board"
 },
 "parts.extras.*.fills": {
  "title": "Stands for",
  "about": "the small part of the parts list that it is",
  "group": "board",
  "longest": 60
 },
 "settings.motor_current_a": {
  "title": "Motor current",
  "about": "each motor",
  "quantity": "current",
  "low": 1,
  "high": 1000
 },
 "settings.motor_brake_a": {
  "title": "Brake current",
  "about": "each motor",
  "quantity": "current",
  "low": 0,
  "high": 1000
 },
 "settings.pack_current_a": {
  "title": "Pack current",
  "about": "each controller",
  "quantity": "current",
  "low": 1,
  "high": 1000
 },
 "settings.pack_regen_a": {
  "title": "Pack current when braking",
  "about": "each controller",
  "quantity": "current",
  "low": 0,
  "high": 500
 },
 "settings.taper_start_v": {
  "title": "Taper begins",
  "about": "pack voltage where the controller starts to hold back",
  "quantity": "voltage",
  "low": 1.5,
  "high": 110
 },
 "settings.taper_end_v": {
  "title": "Taper ends",
  "about": "pack voltage where it gives nothing more",
  "quantity": "voltage",
  "low": 1.5,
  "high": 110
 },
 "settings.max_erpm": {
  "title": "Largest electrical speed",
  "quantity": "electrical_speed",
  "low": 1000,
  "high": 500000
 },
 "settings.max_duty_pct": {
  "title": "Largest modulation",
  "quantity": "share",
  "low": 10,
  "high": 100
 },
 "settings.cells_in_series": {
  "title": "Cells in series",
  "quantity": "count",
  "low": 1,
  "high": 24,
  "whole": true
 },
 "settings.profile": {
  "title": "Profile",
  "about": "what these values are meant for",
  "choices": [
   "beginner",
   "daily",
   "hills",
   "full"
  ]
 },
 "settings.regen_ceiling_v": {
  "title": "Braking ceiling",
  "about": "pack voltage above which braking gives nothing back",
  "quantity": "voltage",
  "low": 1.5,
  "high": 110
 },
 "settings.speed_cap_kmh": {
  "title": "Speed cap",
  "about": "as the controller reckons the speed; for a rule, a beginner",
  "quantity": "speed",
  "low": 3,
  "high": 120
 },
 "settings.quiet_cap_kmh": {
  "title": "Quiet-zone cap",
  "about": "of the remote's slow mode, beside the speed cap",
  "quantity": "speed",
  "low": 3,
  "high": 60
 },
 "settings.motor_rollback_c": {
  "title": "Motor roll-back begins",
  "about": "where a hot motor is given less current",
  "quantity": "temperature",
  "low": 40,
  "high": 180
 },
 "settings.controller_rollback_c": {
  "title": "Controller roll-back begins",
  "quantity": "temperature",
  "low": 40,
  "high": 120
 },
 "settings.sensor_mode": {
  "title": "Rotor position",
  "about": "by Hall sensors, without them, or by them at low speed only",
  "choices": [
   "hall",
   "sensorless",
   "hall_at_low_speed"
  ]
 },
 "settings.directions": {
  "title": "Directions",
  "about": "of one controller's motors; mirrored turns its second one the other way round",
  "choices": [
   "forward",
   "reversed",
   "mirrored"
  ]
 },
 "settings.pole_pairs": {
  "title": "Pole pairs",
  "about": "as the controller reckons speed with",
  "quantity": "count",
  "low": 1,
  "high": 50,
  "whole": true
 },
 "settings.gear_ratio": {
  "title": "Gear ratio",
  "about": "as the controller reckons speed with",
  "quantity": "ratio",
  "low": 0.5,
  "high": 20
 },
 "settings.wheel_diameter_mm": {
  "title": "Wheel diameter",
  "about": "as the controller reckons speed with; that of the loaded wheel",
  "quantity": "length",
  "low": 40,
  "high": 400
 },
 "settings.ride_mode": {
  "title": "Mode",
  "about": "of a boxed controller's remote: its slowest, one between, its fastest",
  "choices": [
   "slow",
   "middle",
   "fast"
  ]
 },
 "settings.throttle_curve": {
  "title": "Throttle curve",
  "about": "how current follows the thumb",
  "choices": [
   "linear",
   "progressive",
   "gentle"
  ]
 },
 "settings.ramp_s": {
  "title": "Throttle ramp",
  "about": "from nothing to all of the current",
  "quantity": "seconds",
  "low": 0,
  "high": 10
 },
 "settings.dead_band_pct": {
  "title": "Dead band",
  "about": "around the remote's middle",
  "quantity": "share",
  "low": 0,
  "high": 40
 },
 "settings.fail_safe": {
  "title": "When the link is lost",
  "choices": [
   "release",
   "brake_gently"
  ]
 },
 "settings.remote_link": {
  "title": "Link to the remote",
  "choices": [
   "serial",
   "pulse"
  ]
 },
 "settings.idle_off_min": {
  "title": "Shuts off when idle for",
  "quantity": "minutes",
  "low": 0,
  "high": 600
 },
 "settings_apart.*.motor_current_a": {
  "title": "Motor current",
  "about": "each motor",
  "quantity": "current",
  "low": 1,
  "high": 1000
 },
 "settings_apart.*.motor_brake_a": {
  "title": "Brake current",
  "about": "each motor",
  "quantity": "current",
  "low": 0,
  "high": 1000
 },
 "settings_apart.*.pack_current_a": {
  "title": "Pack current",
  "about": "each controller",
  "quantity": "current",
  "low": 1,
  "high": 1000
 },
 "settings_apart.*.pack_regen_a": {
  "title": "Pack current when braking",
  "about": "each controller",
  "quantity": "current",
  "low": 0,
  "high": 500
 },
 "settings_apart.*.taper_start_v": {
  "title": "Taper begins",
  "about": "pack voltage where the controller starts to hold back",
  "quantity": "voltage",
  "low": 1.5,
  "high": 110
 },
 "settings_apart.*.taper_end_v": {
  "title": "Taper ends",
  "about": "pack voltage where it gives nothing more",
  "quantity": "voltage",
  "low": 1.5,
  "high": 110
 },
 "settings_apart.*.max_erpm": {
  "title": "Largest electrical speed",
  "quantity": "electrical_speed",
  "low": 1000,
  "high": 500000
 },
 "settings_apart.*.max_duty_pct": {
  "title": "Largest modulation",
  "quantity": "share",
  "low": 10,
  "high": 100
 },
 "settings_apart.*.cells_in_series": {
  "title": "Cells in series",
  "quantity": "count",
  "low": 1,
  "high": 24,
  "whole": true
 },
 "settings_apart.*.profile": {
  "title": "Profile",
  "about": "what these values are meant for",
  "choices": [
   "beginner",
   "daily",
   "hills",
   "full"
  ]
 },
 "settings_apart.*.regen_ceiling_v": {
  "title": "Braking ceiling",
  "about": "pack voltage above which braking gives nothing back",
  "quantity": "voltage",
  "low": 1.5,
  "high": 110
 },
 "settings_apart.*.speed_cap_kmh": {
  "title": "Speed cap",
  "about": "as the controller reckons the speed; for a rule, a beginner",
  "quantity": "speed",
  "low": 3,
  "high": 120
 },
 "settings_apart.*.quiet_cap_kmh": {
  "title": "Quiet-zone cap",
  "about": "of the remote's slow mode, beside the speed cap",
  "quantity": "speed",
  "low": 3,
  "high": 60
 },
 "settings_apart.*.motor_rollback_c": {
  "title": "Motor roll-back begins",
  "about": "where a hot motor is given less current",
  "quantity": "temperature",
  "low": 40,
  "high": 180
 },
 "settings_apart.*.controller_rollback_c": {
  "title": "Controller roll-back begins",
  "quantity": "temperature",
  "low": 40,
  "high": 120
 },
 "settings_apart.*.sensor_mode": {
  "title": "Rotor position",
  "about": "by Hall sensors, without them, or by them at low speed only",
  "choices": [
   "hall",
   "sensorless",
   "hall_at_low_speed"
  ]
 },
 "settings_apart.*.directions": {
  "title": "Directions",
  "about": "of one controller's motors; mirrored turns its second one the other way round",
  "choices": [
   "forward",
   "reversed",
   "mirrored"
  ]
 },
 "settings_apart.*.pole_pairs": {
  "title": "Pole pairs",
  "about": "as the controller reckons speed with",
  "quantity": "count",
  "low": 1,
  "high": 50,
  "whole": true
 },
 "settings_apart.*.gear_ratio": {
  "title": "Gear ratio",
  "about": "as the controller reckons speed with",
  "quantity": "ratio",
  "low": 0.5,
  "high": 20
 },
 "settings_apart.*.wheel_diameter_mm": {
  "title": "Wheel diameter",
  "about": "as the controller reckons speed with; that of the loaded wheel",
  "quantity": "length",
  "low": 40,
  "high": 400
 },
 "settings_apart.*.ride_mode": {
  "title": "Mode",
  "about": "of a boxed controller's remote: its slowest, one between, its fastest",
  "choices": [
   "slow",
   "middle",
   "fast"
  ]
 },
 "settings_apart.*.throttle_curve": {
  "title": "Throttle curve",
  "about": "how current follows the thumb",
  "choices": [
   "linear",
   "progressive",
   "gentle"
  ]
 },
 "settings_apart.*.ramp_s": {
  "title": "Throttle ramp",
  "about": "from nothing to all of the current",
  "quantity": "seconds",
  "low": 0,
  "high": 10
 },
 "settings_apart.*.dead_band_pct": {
  "title": "Dead band",
  "about": "around the remote's middle",
  "quantity": "share",
  "low": 0,
  "high": 40
 },
 "settings_apart.*.fail_safe": {
  "title": "When the link is lost",
  "choices": [
   "release",
   "brake_gently"
  ]
 },
 "settings_apart.*.remote_link": {
  "title": "Link to the remote",
  "choices": [
   "serial",
   "pulse"
  ]
 },
 "settings_apart.*.idle_off_min": {
  "title": "Shuts off when idle for",
  "quantity": "minutes",
  "low": 0,
  "high": 600
 },
 "assumptions.crr": {
  "title": "Rolling resistance coefficient",
  "quantity": "ratio",
  "low": 0.001,
  "high": 0.2,
  "measurable": true
 },
 "assumptions.cda_m2": {
  "title": "Drag area",
  "quantity": "area",
  "low": 0.05,
  "high": 2,
  "measurable": true
 },
 "assumptions.drive_efficiency": {
  "title": "Drive efficiency",
  "quantity": "ratio",
  "low": 0.4,
  "high": 1,
  "measurable": true
 },
 "assumptions.controller_efficiency": {
  "title": "Controller efficiency",
  "quantity": "ratio",
  "low": 0.5,
  "high": 1,
  "measurable": true
 },
 "assumptions.air_density_kg_m3": {
  "title": "Air density",
  "quantity": "density",
  "low": 0.5,
  "high": 1.8,
  "measurable": true
 },
 "assumptions.wind_ms": {
  "title": "Head wind",
  "about": "negative from behind",
  "quantity": "wind",
  "low": -25,
  "high": 25,
  "measurable": true
 },
 "assumptions.idle_w": {
  "title": "Idle draw",
  "quantity": "power",
  "low": 0,
  "high": 200,
  "measurable": true
 },
 "assumptions.drag_n": {
  "title": "Drag of belts or gears",
  "about": "at the road, all motors together",
  "quantity": "force",
  "low": 0,
  "high": 60,
  "measurable": true
 },
 "assumptions.path_resistance_mohm": {
  "title": "Links, wire and connectors",
  "about": "from the cells to the controller",
  "quantity": "resistance",
  "low": 0.5,
  "high": 500,
  "measurable": true
 },
 "assumptions.grip": {
  "title": "Grip of the driven wheels",
  "about": "where they slip, force over weight on them",
  "quantity": "ratio",
  "low": 0.05,
  "high": 1.5,
  "measurable": true
 },
 "weighed_kg": {
  "title": "Weighed",
  "about": "the whole board as carried, on a scale",
  "quantity": "body_mass",
  "low": 1,
  "high": 60
 },
 "measured.*.path": {
  "title": "Figure",
  "about": "its path, such as parts.motors.kv_rpm_per_v",
  "longest": 120
 },
 "measured.*.by": {
  "title": "Measured with",
  "longest": 120
 },
 "measured.*.day": {
  "title": "On",
  "day": true
 },
 "set_aside.*.finding": {
  "title": "Finding",
  "longest": 60
 },
 "set_aside.*.word": {
  "title": "Why",
  "longest": 600
 },
 "set_aside.*.said": {
  "title": "What it said then",
  "longest": 1000
 },
 "set_aside.*.day": {
  "title": "Day",
  "day": true
 },
 "detected.*.resistance_mohm": {
  "title": "Resistance found",
  "about": "of one phase, line to neutral, cold",
  "quantity": "resistance",
  "low": 0.5,
  "high": 2000
 },
 "detected.*.inductance_uh": {
  "title": "Inductance found",
  "about": "of one phase",
  "quantity": "inductance",
  "low": 0.5,
  "high": 5000
 },
 "detected.*.flux_linkage_mwb": {
  "title": "Flux linkage found",
  "about": "peak, of one phase",
  "quantity": "flux_linkage",
  "low": 0.05,
  "high": 500
 },
 "detected.*.halls": {
  "title": "Hall order",
  "about": "what the sensors say through one electrical turn"
 },
 "detected.*.turned": {
  "title": "Turned",
  "about": "when the controller turned it forward",
  "choices": [
   "forward",
   "backward"
  ]
 },
 "detected.*.on": {
  "title": "Found on",
  "day": true
 },
 "orders.*.name": {
  "title": "Order",
  "about": "the shop, or one of several orders there",
  "longest": 60
 },
 "orders.*.currency": {
  "title": "Currency",
  "about": "of its shipping"
 },
 "orders.*.shipping": {
  "title": "Shipping",
  "quantity": "money",
  "low": 0,
  "high": 100000
 },
 "orders.*.duty_pct": {
  "title": "Duty",
  "about": "on goods and shipping, where it is not in the price",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "orders.*.tax_pct": {
  "title": "Tax",
  "about": "on goods, shipping and duty, where it is not in the price",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "orders.*.ordered_on": {
  "title": "Ordered",
  "day": true
 },
 "orders.*.due_on": {
  "title": "Due",
  "day": true
 },
 "orders.*.notes": {
  "title": "Notes",
  "about": "order number, whom to ask",
  "longest": 2000
 },
 "exchange.*.currency": {
  "title": "Currency"
 },
 "exchange.*.rate": {
  "title": "Rate",
  "about": "what one of it costs in the build's currency",
  "quantity": "ratio",
  "low": 1e-06,
  "high": 1000000
 },
 "exchange.*.on": {
  "title": "Day of the rate",
  "day": true
 },
 "left_over.*.name": {
  "title": "Name",
  "group": "listing",
  "longest": 120
 },
 "left_over.*.maker": {
  "title": "Maker",
  "group": "listing",
  "longest": 120
 },
 "left_over.*.price": {
  "title": "Price",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "money",
  "low": 0,
  "high": 100000,
  "group": "listing"
 },
 "left_over.*.currency": {
  "title": "Currency",
  "group": "listing"
 },
 "left_over.*.owned": {
  "title": "Already in the drawer",
  "about": "counts to the board's value, not to what is still to be spent",
  "group": "buying",
  "yesNo": true
 },
 "left_over.*.purchase.status": {
  "title": "Stands",
  "choices": [
   "to_order",
   "ordered",
   "late",
   "arrived",
   "faulty",
   "replaced"
  ]
 },
 "left_over.*.purchase.order": {
  "title": "Order",
  "about": "the shop, or one order of several at a shop",
  "longest": 60
 },
 "left_over.*.purchase.due_on": {
  "title": "Due",
  "day": true
 },
 "left_over.*.purchase.arrived_on": {
  "title": "Arrived",
  "day": true
 },
 "left_over.*.kit": {
  "title": "Comes in the kit",
  "about": "which has the price",
  "group": "buying",
  "longest": 120
 },
 "left_over.*.mass_g": {
  "title": "Mass",
  "about": "of one, where the part is counted; else of the set",
  "quantity": "mass",
  "low": 0,
  "high": 60000,
  "group": "listing"
 },
 "left_over.*.source": {
  "title": "Where the figures come from",
  "group": "listing",
  "longest": 400
 },
 "left_over.*.notes": {
  "title": "Notes",
  "group": "listing",
  "longest": 4000
 },
 "left_over.*.measured": {
  "title": "Measured figures",
  "about": "keys of this part that were measured, not read off a listing",
  "group": "mark"
 },
 "left_over.*.kind": {
  "title": "Kind",
  "longest": 20
 },
 "left_over.*.count": {
  "title": "How many",
  "quantity": "count",
  "low": 1,
  "high": 10000,
  "whole": true,
  "group": "board"
 },
 "not_needed": {
  "title": "Not needed",
  "about": "small parts that the builder does without"
 },
 "ready_made.name": {
  "title": "Name",
  "longest": 120
 },
 "ready_made.price": {
  "title": "Price",
  "quantity": "money",
  "low": 0,
  "high": 100000
 },
 "ready_made.currency": {
  "title": "Currency"
 },
 "ready_made.shipping": {
  "title": "Shipping",
  "quantity": "money",
  "low": 0,
  "high": 100000
 },
 "ready_made.duty_pct": {
  "title": "Duty",
  "about": "on price and shipping, where it is not in the price",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "ready_made.tax_pct": {
  "title": "Tax",
  "about": "on all of it, where it is not in the price",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "ready_made.top_speed_kmh": {
  "title": "Top speed promised",
  "quantity": "speed",
  "low": 5,
  "high": 120
 },
 "ready_made.hill_grade_pct": {
  "title": "Hill promised",
  "quantity": "grade",
  "low": 0,
  "high": 60
 },
 "ready_made.range_km": {
  "title": "Range promised",
  "quantity": "distance",
  "low": 0.5,
  "high": 300
 },
 "ready_made.mass_kg": {
  "title": "Mass",
  "quantity": "body_mass",
  "low": 1,
  "high": 60
 },
 "ready_made.pack_wh": {
  "title": "Pack",
  "quantity": "energy",
  "low": 10,
  "high": 10000
 },
 "ready_made.warranty_months": {
  "title": "Warranty, months",
  "quantity": "count",
  "low": 0,
  "high": 240,
  "whole": true
 },
 "ready_made.promises": {
  "title": "What else is promised",
  "about": "tested with which rider, how fast, on which road",
  "longest": 2000
 },
 "ready_made.source": {
  "title": "Where the figures come from",
  "longest": 400
 },
 "existing.name": {
  "title": "What board it is",
  "longest": 120
 },
 "existing.mass_kg": {
  "title": "Weighed as it was",
  "about": "before anything was taken off",
  "quantity": "body_mass",
  "low": 1,
  "high": 60
 },
 "existing.top_speed_kmh": {
  "title": "Top speed as it was",
  "about": "measured, on a full pack",
  "quantity": "speed",
  "low": 3,
  "high": 120
 },
 "existing.range_km": {
  "title": "Range as it was",
  "quantity": "distance",
  "low": 0.5,
  "high": 300
 },
 "existing.note": {
  "title": "Why it is changed",
  "longest": 2000
 },
 "packwork.cells.*.id": {
  "title": "Cell",
  "about": "as written on it",
  "longest": 24
 },
 "packwork.cells.*.capacity_ah": {
  "title": "Capacity",
  "about": "one full slow charge and discharge",
  "quantity": "charge",
  "low": 0,
  "high": 120
 },
 "packwork.cells.*.found_v": {
  "title": "As found",
  "quantity": "cell_voltage",
  "low": 0,
  "high": 5
 },
 "packwork.cells.*.rested_v": {
  "title": "After rest",
  "about": "a week or more after a full charge",
  "quantity": "cell_voltage",
  "low": 0,
  "high": 5
 },
 "packwork.cells.*.rested_days": {
  "title": "Days of rest",
  "quantity": "count",
  "low": 0,
  "high": 2000
 },
 "packwork.cells.*.resistance_mohm": {
  "title": "Resistance",
  "quantity": "resistance",
  "low": 0.1,
  "high": 2000
 },
 "packwork.cells.*.mass_g": {
  "title": "Mass",
  "quantity": "mass",
  "low": 1,
  "high": 6000
 },
 "packwork.cells.*.size": {
  "title": "Size",
  "longest": 30
 },
 "packwork.cells.*.source": {
  "title": "Where from",
  "longest": 80
 },
 "packwork.cells.*.chemistry": {
  "title": "Chemistry",
  "about": "where the bag holds several",
  "choices": [
   "nmc",
   "nca",
   "lfp",
   "polymer"
  ]
 },
 "packwork.cells.*.group": {
  "title": "Group",
  "about": "counted from the pack's negative end",
  "quantity": "count",
  "low": 1,
  "high": 24,
  "whole": true
 },
 "packwork.cells.*.locked": {
  "title": "Stays where it is",
  "about": "sorting leaves it in its group",
  "yesNo": true
 },
 "packwork.resistance_by": {
  "title": "Resistance measured",
  "about": "by the voltage step under a current, or by a tester's 1 kHz, which shows less",
  "choices": [
   "pulse",
   "tester"
  ]
 },
 "packwork.plan.lie": {
  "title": "Cells lie",
  "about": "across the board, along it, or standing",
  "choices": [
   "across",
   "along",
   "standing"
  ]
 },
 "packwork.plan.layers": {
  "title": "Layers",
  "quantity": "count",
  "low": 1,
  "high": 4,
  "whole": true
 },
 "packwork.plan.halves": {
  "title": "Made in two halves",
  "about": "no more than half the voltage on the table",
  "yesNo": true
 },
 "packwork.plan.order": {
  "title": "Order of the groups",
  "about": "as they lie along the path"
 },
 "packwork.plan.strip": {
  "title": "Strip",
  "about": "steel is sold as nickel: it rusts in salt water, nickel does not",
  "choices": [
   "nickel",
   "steel",
   "copper"
  ]
 },
 "packwork.plan.strip_width_mm": {
  "title": "Strip, width",
  "quantity": "length",
  "low": 2,
  "high": 60
 },
 "packwork.plan.strip_thickness_mm": {
  "title": "Strip, thickness",
  "quantity": "thickness",
  "low": 0.05,
  "high": 2
 },
 "packwork.plan.strip_layers": {
  "title": "Strips on each other",
  "quantity": "count",
  "low": 1,
  "high": 6,
  "whole": true
 },
 "packwork.plan.bridges": {
  "title": "Bridges beside",
  "about": "further strips or braids over each link, of the same kind",
  "quantity": "count",
  "low": 0,
  "high": 60,
  "whole": true
 },
 "packwork.plan.insulated": {
  "title": "Insulated"
 },
 "packwork.taps.charge_pct": {
  "title": "Charge of the day",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "packwork.taps.readings": {
  "title": "Readings",
  "quantity": "cell_voltage",
  "low": -120.0,
  "high": 120.0
 },
 "packwork.taps.day": {
  "title": "On",
  "day": true
 },
 "packwork.charges.*.began": {
  "title": "Began",
  "day": true
 },
 "packwork.charges.*.brick": {
  "title": "Brick",
  "about": "where each is charged alone",
  "quantity": "count",
  "low": 1,
  "high": 12,
  "whole": true
 },
 "packwork.charges.*.looks.*.minute": {
  "title": "Minute",
  "quantity": "minutes"
 },
 "packwork.charges.*.looks.*.groups_v": {
  "title": "Groups"
 },
 "packwork.charges.*.looks.*.current_a": {
  "title": "Current",
  "about": "at the charger or by a clamp",
  "quantity": "current",
  "low": 0,
  "high": 60
 },
 "packwork.charges.*.looks.*.warmth": {
  "title": "By hand",
  "about": "the whole block, and each group where it can be reached",
  "choices": [
   "cool",
   "warm",
   "hot"
  ]
 },
 "packwork.charges.*.ended": {
  "title": "Ended",
  "choices": [
   "by_itself",
   "stopped"
  ]
 },
 "packwork.charges.*.note": {
  "title": "Note",
  "longest": 600
 },
 "trips.*.id": {
  "title": "Id",
  "longest": 40
 },
 "trips.*.name": {
  "title": "Name",
  "longest": 120
 },
 "trips.*.carried_kg": {
  "title": "Luggage",
  "about": "bag, charger and tools; further packs are counted by themselves",
  "quantity": "body_mass",
  "low": 0,
  "high": 60
 },
 "trips.*.start_pct": {
  "title": "Charge at start",
  "quantity": "share",
  "low": 5,
  "high": 100
 },
 "trips.*.swap_packs": {
  "title": "Packs to swap",
  "about": "beside the one on the board",
  "quantity": "count",
  "low": 0,
  "high": 6,
  "whole": true
 },
 "trips.*.packs_beside": {
  "title": "Packs beside",
  "about": "joined to the board's own, so that it has as much more",
  "quantity": "count",
  "low": 0,
  "high": 3,
  "whole": true
 },
 "trips.*.days.*.on": {
  "title": "On",
  "day": true
 },
 "trips.*.days.*.start": {
  "title": "Sets out at"
 },
 "trips.*.days.*.weather.temperature_c": {
  "title": "Temperature",
  "quantity": "temperature",
  "low": -30,
  "high": 50
 },
 "trips.*.days.*.weather.wind_ms": {
  "title": "Wind",
  "about": "as felt standing; a forecast for 10 m up is half as much again",
  "quantity": "wind",
  "low": 0,
  "high": 30
 },
 "trips.*.days.*.weather.wind_from_deg": {
  "title": "Wind comes from",
  "about": "degrees from north",
  "quantity": "angle",
  "low": 0,
  "high": 360
 },
 "trips.*.days.*.weather.wet": {
  "title": "Wet",
  "yesNo": true
 },
 "trips.*.days.*.legs.*.name": {
  "title": "To",
  "longest": 80
 },
 "trips.*.days.*.legs.*.distance_km": {
  "title": "Distance",
  "quantity": "distance",
  "low": 0.05,
  "high": 400
 },
 "trips.*.days.*.legs.*.ascent_m": {
  "title": "Climbed",
  "about": "all the ups together",
  "quantity": "way",
  "low": 0,
  "high": 9000
 },
 "trips.*.days.*.legs.*.descent_m": {
  "title": "Descended",
  "quantity": "way",
  "low": 0,
  "high": 9000
 },
 "trips.*.days.*.legs.*.bearing_deg": {
  "title": "Leads to",
  "about": "degrees from north, for the wind",
  "quantity": "angle",
  "low": 0,
  "high": 360
 },
 "trips.*.days.*.legs.*.there_and_back": {
  "title": "There and back",
  "yesNo": true
 },
 "trips.*.days.*.legs.*.speed_kmh": {
  "title": "Speed on the move",
  "quantity": "speed",
  "low": 3,
  "high": 80
 },
 "trips.*.days.*.legs.*.surface": {
  "title": "Surface",
  "choices": [
   "smooth_asphalt",
   "fair_asphalt",
   "rough_asphalt",
   "boardwalk",
   "packed_gravel"
  ]
 },
 "trips.*.days.*.legs.*.stops": {
  "title": "Stops on the way",
  "quantity": "count",
  "low": 0,
  "high": 500,
  "whole": true
 },
 "trips.*.days.*.legs.*.profile.metres": {
  "title": "Metres"
 },
 "trips.*.days.*.legs.*.profile.heights": {
  "title": "Heights"
 },
 "trips.*.days.*.legs.*.profile.lat": {
  "title": "Lat"
 },
 "trips.*.days.*.legs.*.profile.lon": {
  "title": "Lon"
 },
 "trips.*.days.*.legs.*.profile.unknown_heights": {
  "title": "Without heights",
  "about": "the track told none: it counts as level",
  "yesNo": true
 },
 "trips.*.days.*.legs.*.then.kind": {
  "title": "Kind",
  "choices": [
   "rest",
   "charge",
   "swap",
   "night"
  ]
 },
 "trips.*.days.*.legs.*.then.place": {
  "title": "Where",
  "longest": 80
 },
 "trips.*.days.*.legs.*.then.minutes": {
  "title": "How long",
  "quantity": "minutes",
  "low": 0,
  "high": 2880
 },
 "trips.*.days.*.legs.*.then.charger_a": {
  "title": "Charger",
  "about": "where it is not the board's own",
  "quantity": "current",
  "low": 0.1,
  "high": 60
 },
 "trips.*.days.*.legs.*.then.charger_v": {
  "title": "Charger's volts",
  "about": "where it is not the board's own",
  "quantity": "voltage",
  "low": 3,
  "high": 120
 },
 "trips.*.days.*.legs.*.then.until_pct": {
  "title": "No further than",
  "quantity": "share",
  "low": 5,
  "high": 100
 },
 "trips.*.rides": {
  "title": "Ridden as",
  "about": "rides of the log"
 },
 "trips.*.note": {
  "title": "Note",
  "longest": 2000
 },
 "upkeep.done.*.id": {
  "title": "Id",
  "longest": 40
 },
 "upkeep.done.*.task": {
  "title": "Task",
  "choices": [
   "belts",
   "screws",
   "bearings",
   "wheels_turned",
   "wheels_worn",
   "pulleys",
   "chain",
   "gears",
   "bushings",
   "tyres",
   "brake_test",
   "group_volts",
   "capacity",
   "top_up",
   "remote_cell",
   "plugs"
  ]
 },
 "upkeep.done.*.on": {
  "title": "On",
  "day": true
 },
 "upkeep.done.*.km": {
  "title": "Ridden by then",
  "quantity": "distance",
  "low": 0,
  "high": 200000
 },
 "upkeep.done.*.found": {
  "title": "It was",
  "about": "good: still fit; worn: changed in time; failed: it gave way",
  "choices": [
   "good",
   "worn",
   "failed"
  ]
 },
 "upkeep.done.*.changed": {
  "title": "Changed for another",
  "yesNo": true
 },
 "upkeep.done.*.by": {
  "title": "By",
  "longest": 60
 },
 "upkeep.done.*.spare": {
  "title": "Out of the drawer",
  "longest": 40
 },
 "upkeep.done.*.count": {
  "title": "How many",
  "quantity": "count",
  "low": 1,
  "high": 40,
  "whole": true
 },
 "upkeep.done.*.diameter_mm": {
  "title": "Wheel's diameter",
  "quantity": "length",
  "low": 40,
  "high": 400
 },
 "upkeep.done.*.volts": {
  "title": "Volts of the groups"
 },
 "upkeep.done.*.capacity_pct": {
  "title": "Capacity left",
  "quantity": "share",
  "low": 20,
  "high": 120
 },
 "upkeep.done.*.note": {
  "title": "Note",
  "longest": 600
 },
 "upkeep.spares.*.id": {
  "title": "Id",
  "longest": 40
 },
 "upkeep.spares.*.name": {
  "title": "Name",
  "longest": 80
 },
 "upkeep.spares.*.task": {
  "title": "For",
  "choices": [
   "belts",
   "screws",
   "bearings",
   "wheels_turned",
   "wheels_worn",
   "pulleys",
   "chain",
   "gears",
   "bushings",
   "tyres",
   "brake_test",
   "group_volts",
   "capacity",
   "top_up",
   "remote_cell",
   "plugs"
  ]
 },
 "upkeep.spares.*.count": {
  "title": "In the drawer",
  "quantity": "count",
  "low": 0,
  "high": 99,
  "whole": true
 },
 "upkeep.spares.*.wanted": {
  "title": "Should be there",
  "quantity": "count",
  "low": 0,
  "high": 99,
  "whole": true
 },
 "upkeep.spares.*.price": {
  "title": "Price of one",
  "quantity": "money",
  "low": 0,
  "high": 10000
 },
 "upkeep.spares.*.currency": {
  "title": "Currency"
 },
 "upkeep.intervals.*.task": {
  "title": "Task",
  "choices": [
   "belts",
   "screws",
   "bearings",
   "wheels_turned",
   "wheels_worn",
   "pulleys",
   "chain",
   "gears",
   "bushings",
   "tyres",
   "brake_test",
   "group_volts",
   "capacity",
   "top_up",
   "remote_cell",
   "plugs"
  ]
 },
 "upkeep.intervals.*.km": {
  "title": "Every",
  "quantity": "distance",
  "low": 5,
  "high": 50000
 },
 "upkeep.intervals.*.days": {
  "title": "Every so many days",
  "quantity": "count",
  "low": 1,
  "high": 3000,
  "whole": true
 },
 "upkeep.intervals.*.never": {
  "title": "Not on this board",
  "yesNo": true
 },
 "upkeep.seasons.*.season": {
  "title": "Season",
  "choices": [
   "lay_up",
   "spring"
  ]
 },
 "upkeep.seasons.*.on": {
  "title": "On",
  "day": true
 },
 "upkeep.seasons.*.ticked": {
  "title": "Ticked"
 },
 "upkeep.seasons.*.closed": {
  "title": "Done",
  "day": true
 },
 "upkeep.wheels_new_mm": {
  "title": "Wheels when new",
  "quantity": "length",
  "low": 40,
  "high": 400
 },
 "upkeep.km_before": {
  "title": "Ridden before the log",
  "about": "counted on top of the rides",
  "quantity": "distance",
  "low": 0,
  "high": 100000
 },
 "came_to.hours": {
  "title": "Hours at the bench",
  "about": "instead of what the log of the work tells",
  "quantity": "hours",
  "low": 0,
  "high": 10000
 },
 "came_to.tools": {
  "title": "Tools",
  "about": "bought for this board and kept",
  "quantity": "money",
  "low": 0,
  "high": 100000
 },
 "came_to.consumables": {
  "title": "Consumables",
  "about": "solder, tape, glue, sheet, cutters",
  "quantity": "money",
  "low": 0,
  "high": 100000
 },
 "came_to.kwh_price": {
  "title": "A kilowatt-hour costs",
  "quantity": "money",
  "low": 0,
  "high": 10
 },
 "came_to.fare": {
  "title": "A fare costs",
  "about": "of the way that it is ridden instead",
  "quantity": "money",
  "low": 0,
  "high": 1000
 },
 "came_to.fare_km": {
  "title": "That fare takes one",
  "quantity": "distance",
  "low": 0.1,
  "high": 500
 },
 "came_to.would_change": {
  "title": "What I would change",
  "longest": 4000
 },
 "came_to.to_say": {
  "title": "To whoever builds it next",
  "longest": 4000
 },
 "bench_test.low_ms": {
  "title": "At full brake",
  "quantity": "milliseconds",
  "low": 0.2,
  "high": 5
 },
 "bench_test.middle_ms": {
  "title": "In the middle",
  "quantity": "milliseconds",
  "low": 0.2,
  "high": 5
 },
 "bench_test.high_ms": {
  "title": "At full throttle",
  "quantity": "milliseconds",
  "low": 0.2,
  "high": 5
 },
 "bench_test.wheels_free": {
  "title": "Wheels in the air, nothing near them",
  "yesNo": true
 },
 "bench_test.polarity_right": {
  "title": "Red is plus, by the meter",
  "yesNo": true
 },
 "bench_test.pack_v": {
  "title": "Pack voltage",
  "about": "at rest, by the meter",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "bench_test.lowest_cell_v": {
  "title": "Lowest cell",
  "quantity": "cell_voltage",
  "low": 0,
  "high": 5
 },
 "bench_test.highest_cell_v": {
  "title": "Highest cell",
  "quantity": "cell_voltage",
  "low": 0,
  "high": 5
 },
 "bench_test.still": {
  "title": "Stands still, thumb off",
  "yesNo": true
 },
 "bench_test.motors.*.forward": {
  "title": "Turns the board forward",
  "yesNo": true
 },
 "bench_test.motors.*.backward": {
  "title": "And backward",
  "about": "in reverse, where the remote has it",
  "yesNo": true
 },
 "bench_test.motors.*.erpm": {
  "title": "Electrical speed",
  "about": "as the controller shows it",
  "quantity": "electrical_speed",
  "low": 0,
  "high": 500000
 },
 "bench_test.motors.*.wheel_rpm": {
  "title": "Wheel's turns",
  "about": "by a tachometer, where no controller shows them",
  "quantity": "turns",
  "low": 0,
  "high": 20000
 },
 "bench_test.motors.*.current_a": {
  "title": "Motor current",
  "quantity": "current",
  "low": 0,
  "high": 200
 },
 "bench_test.pack_current_a": {
  "title": "Pack current",
  "about": "at full throttle, wheels free",
  "quantity": "current",
  "low": 0,
  "high": 400
 },
 "bench_test.brakes": {
  "title": "The brake stops the wheels",
  "yesNo": true
 },
 "bench_test.stopped_in_s": {
  "title": "At rest after",
  "about": "from full speed, wheels free",
  "quantity": "seconds",
  "low": 0,
  "high": 60
 },
 "bench_test.lost_link": {
  "title": "With the remote switched off it",
  "choices": [
   "lets_go",
   "brakes_gently",
   "keeps_running"
  ]
 },
 "bench_test.lost_after_s": {
  "title": "After",
  "quantity": "seconds",
  "low": 0,
  "high": 30
 },
 "bench_test.cut_off_begins_v": {
  "title": "Holds back from",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "bench_test.cut_off_ends_v": {
  "title": "Gives nothing below",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "bench_test.sound": {
  "title": "Nothing hot, no smell, no rattle",
  "yesNo": true
 },
 "bench_test.left_out": {
  "title": "Left out",
  "about": "steps that could not be done here, each with a word of why"
 },
 "bench_test.notes": {
  "title": "Notes",
  "longest": 2000
 },
 "ride.day": {
  "title": "Day",
  "day": true
 },
 "ride.id": {
  "title": "Its name for machines",
  "longest": 40
 },
 "ride.at": {
  "title": "Set out"
 },
 "ride.kind": {
  "title": "Kind",
  "choices": [
   "ride",
   "range_test",
   "test"
  ]
 },
 "ride.title": {
  "title": "What it was",
  "longest": 120
 },
 "ride.rider.mass_kg": {
  "title": "Rider",
  "about": "dressed to ride",
  "quantity": "body_mass",
  "low": 20,
  "high": 200
 },
 "ride.rider.carried_kg": {
  "title": "Carried",
  "quantity": "body_mass",
  "low": 0,
  "high": 60
 },
 "ride.rider.other": {
  "title": "Somebody else rode",
  "about": "nothing is learnt of how you ride",
  "yesNo": true
 },
 "ride.conditions.temperature_c": {
  "title": "Temperature",
  "quantity": "temperature",
  "low": -30,
  "high": 50
 },
 "ride.conditions.wind_ms": {
  "title": "Wind",
  "about": "as felt standing still, where it was open",
  "quantity": "wind",
  "low": 0,
  "high": 30
 },
 "ride.conditions.wind": {
  "title": "The wind was met",
  "choices": [
   "out_and_back",
   "against",
   "behind",
   "across"
  ]
 },
 "ride.conditions.surface": {
  "title": "Surface",
  "choices": [
   "smooth_asphalt",
   "fair_asphalt",
   "rough_asphalt",
   "boardwalk",
   "packed_gravel"
  ]
 },
 "ride.conditions.wet": {
  "title": "Wet",
  "yesNo": true
 },
 "ride.way.distance_km": {
  "title": "Distance",
  "quantity": "distance",
  "low": 0.02,
  "high": 1000
 },
 "ride.way.ascent_m": {
  "title": "Climbed",
  "about": "all the ups together",
  "quantity": "way",
  "low": 0,
  "high": 20000
 },
 "ride.way.moving_s": {
  "title": "Moving time",
  "quantity": "seconds"
 },
 "ride.way.stops": {
  "title": "Stops",
  "quantity": "count",
  "low": 0,
  "high": 2000,
  "whole": true
 },
 "ride.pack.start_v": {
  "title": "Volts before",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "ride.pack.end_v": {
  "title": "Volts after",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "ride.pack.by": {
  "title": "Read by",
  "about": "a meter at the plug, the board's or the remote's gauge, the controller's log",
  "choices": [
   "meter",
   "gauge",
   "controller"
  ]
 },
 "ride.pack.rested_s": {
  "title": "Rested before it was read",
  "quantity": "seconds"
 },
 "ride.pack.start_pct": {
  "title": "Charge before",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "ride.pack.end_pct": {
  "title": "Charge after",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "ride.pack.wh": {
  "title": "Charged afterwards",
  "about": "as the charger counts into the pack",
  "quantity": "energy",
  "low": 1,
  "high": 20000
 },
 "ride.pack.ended": {
  "title": "It ended",
  "about": "home; the controller warned; it cut off",
  "choices": [
   "home",
   "warned",
   "cut_off"
  ]
 },
 "ride.runs": {
  "title": "Runs"
 },
 "ride.warm": {
  "title": "Motors afterwards",
  "about": "to the hand; rolled back: the controller held back for the heat",
  "choices": [
   "cool",
   "warm",
   "hot",
   "rolled_back"
  ]
 },
 "ride.broke": {
  "title": "What broke",
  "longest": 600
 },
 "ride.wish": {
  "title": "What I would change",
  "longest": 600
 },
 "ride.note": {
  "title": "Note",
  "longest": 2000
 },
 "ride.revision": {
  "title": "The board as it was",
  "about": "the named point that was ridden",
  "longest": 120
 },
 "ride.left_out": {
  "title": "Left out",
  "about": "why nothing is learnt from it",
  "longest": 300
 },
 "ride.speed.kind": {
  "title": "Kind"
 },
 "ride.speed.kmh": {
  "title": "Speeds"
 },
 "ride.speed.charge_pct": {
  "title": "Charge",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "ride.hill.kind": {
  "title": "Kind"
 },
 "ride.hill.grade_pct": {
  "title": "Grade",
  "quantity": "grade",
  "low": 0.5,
  "high": 60
 },
 "ride.hill.rise_m": {
  "title": "Rise",
  "about": "with its length, instead of the grade",
  "quantity": "way",
  "low": 0.5,
  "high": 3000
 },
 "ride.hill.length_m": {
  "title": "Length",
  "quantity": "way",
  "low": 5,
  "high": 20000
 },
 "ride.hill.foot_kmh": {
  "title": "Speed at the foot",
  "quantity": "speed",
  "low": 0,
  "high": 150
 },
 "ride.hill.top_kmh": {
  "title": "Speed at the top",
  "about": "0 where it stopped",
  "quantity": "speed",
  "low": 0,
  "high": 150
 },
 "ride.hill.charge_pct": {
  "title": "Charge",
  "quantity": "share",
  "low": 0,
  "high": 100
 },
 "ride.coast.kind": {
  "title": "Kind"
 },
 "ride.coast.from_kmh": {
  "title": "From",
  "quantity": "speed",
  "low": 3,
  "high": 100
 },
 "ride.coast.to_kmh": {
  "title": "To",
  "quantity": "speed",
  "low": 0,
  "high": 95
 },
 "ride.coast.metres": {
  "title": "Way",
  "about": "the mean of both ways, where there are two",
  "quantity": "way",
  "low": 2,
  "high": 3000
 },
 "ride.coast.both_ways": {
  "title": "Both ways",
  "yesNo": true
 },
 "ride.coast.drive_off": {
  "title": "Belts off",
  "about": "nothing but bearings, tyres and air hold it",
  "yesNo": true
 },
 "ride.unloaded.kind": {
  "title": "Kind"
 },
 "ride.unloaded.kmh": {
  "title": "Speed of the rim",
  "quantity": "speed",
  "low": 2,
  "high": 250
 },
 "ride.unloaded.pack_v": {
  "title": "Pack, at rest",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "ride.charge.kind": {
  "title": "Kind"
 },
 "ride.charge.wh": {
  "title": "Energy",
  "quantity": "energy",
  "low": 1,
  "high": 20000
 },
 "ride.charge.at": {
  "title": "Counted",
  "about": "at the wall's socket, or into the pack",
  "choices": [
   "wall",
   "pack"
  ]
 },
 "ride.charge.from_v": {
  "title": "From",
  "about": "the pack at rest",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "ride.charge.to_v": {
  "title": "To",
  "about": "the pack at rest",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "log.rode.id": {
  "title": "Id"
 },
 "log.rode.at": {
  "title": "At"
 },
 "log.rode.by": {
  "title": "By",
  "longest": 60
 },
 "log.rode.kind": {
  "title": "Kind"
 },
 "log.rode.day": {
  "title": "Day",
  "day": true
 },
 "log.rode.km": {
  "title": "Distance",
  "quantity": "distance",
  "low": 0,
  "high": 1000
 },
 "log.rode.start_v": {
  "title": "Volts before",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "log.rode.end_v": {
  "title": "Volts after",
  "quantity": "voltage",
  "low": 1,
  "high": 120
 },
 "log.rode.note": {
  "title": "Note",
  "longest": 2000
 },
 "log.done.id": {
  "title": "Id"
 },
 "log.done.at": {
  "title": "At"
 },
 "log.done.by": {
  "title": "By",
  "longest": 60
 },
 "log.done.kind": {
  "title": "Kind"
 },
 "log.done.step": {
  "title": "Step",
  "longest": 60
 },
 "log.done.minutes": {
  "title": "Minutes it took",
  "quantity": "minutes",
  "low": 0.1,
  "high": 6000
 },
 "log.done.otherwise": {
  "title": "Otherwise",
  "longest": 2000
 },
 "log.done.facts": {
  "title": "Facts"
 }
};

/** Where a figure of the build file stands; a path that there is not does not compile. */
export type FigurePath =
  | 'format'
  | 'version'
  | 'name'
  | 'stage'
  | 'currency'
  | 'rider.mass_kg'
  | 'rider.height_m'
  | 'rider.carried_kg'
  | 'rider.stance'
  | 'brief.use'
  | 'brief.top_speed_kmh'
  | 'brief.cruise_kmh'
  | 'brief.mean_kmh'
  | 'brief.range_km'
  | 'brief.reserve_pct'
  | 'brief.range_means'
  | 'brief.ascent_m_per_km'
  | 'brief.stops_per_km'
  | 'brief.wind_ms'
  | 'brief.wind'
  | 'brief.rides'
  | 'brief.hill_grade_pct'
  | 'brief.hill_rise_m'
  | 'brief.hill_length_m'
  | 'brief.hill_minutes'
  | 'brief.budget'
  | 'brief.carry_mass_kg'
  | 'brief.surface'
  | 'brief.temperature_c'
  | 'brief.altitude_m'
  | 'brief.wet'
  | 'brief.local_speed_limit_kmh'
  | 'brief.quiet_zone_kmh'
  | 'brief.local_rules'
  | 'parts.deck.name'
  | 'parts.deck.maker'
  | 'parts.deck.price'
  | 'parts.deck.currency'
  | 'parts.deck.owned'
  | 'parts.deck.purchase.status'
  | 'parts.deck.purchase.order'
  | 'parts.deck.purchase.due_on'
  | 'parts.deck.purchase.arrived_on'
  | 'parts.deck.kit'
  | 'parts.deck.mass_g'
  | 'parts.deck.source'
  | 'parts.deck.notes'
  | 'parts.deck.measured'
  | 'parts.deck.length_mm'
  | 'parts.deck.width_mm'
  | 'parts.deck.thickness_mm'
  | 'parts.deck.wheelbase_mm'
  | 'parts.deck.mount'
  | 'parts.deck.concave_mm'
  | 'parts.deck.rocker_mm'
  | 'parts.deck.flex'
  | 'parts.deck.cutouts'
  | 'parts.deck.tail_mm'
  | 'parts.deck.front_axle_mm'
  | 'parts.deck.ends_deg'
  | 'parts.deck.bend_mm'
  | 'parts.deck.moved_mm'
  | 'parts.deck.routed_mm'
  | 'parts.deck.routed_length_mm'
  | 'parts.deck.routed_width_mm'
  | 'parts.deck.wood'
  | `parts.deck.curve.${number}.at_mm`
  | `parts.deck.curve.${number}.below_mm`
  | `parts.deck.curve.${number}.hollow_mm`
  | 'parts.trucks.name'
  | 'parts.trucks.maker'
  | 'parts.trucks.price'
  | 'parts.trucks.currency'
  | 'parts.trucks.owned'
  | 'parts.trucks.purchase.status'
  | 'parts.trucks.purchase.order'
  | 'parts.trucks.purchase.due_on'
  | 'parts.trucks.purchase.arrived_on'
  | 'parts.trucks.kit'
  | 'parts.trucks.mass_g'
  | 'parts.trucks.source'
  | 'parts.trucks.notes'
  | 'parts.trucks.measured'
  | 'parts.trucks.hanger_mm'
  | 'parts.trucks.axle_mm'
  | 'parts.trucks.height_mm'
  | 'parts.trucks.profile'
  | 'parts.trucks.lean_deg'
  | 'parts.trucks.pivots'
  | 'parts.wheels.name'
  | 'parts.wheels.maker'
  | 'parts.wheels.price'
  | 'parts.wheels.currency'
  | 'parts.wheels.owned'
  | 'parts.wheels.purchase.status'
  | 'parts.wheels.purchase.order'
  | 'parts.wheels.purchase.due_on'
  | 'parts.wheels.purchase.arrived_on'
  | 'parts.wheels.kit'
  | 'parts.wheels.mass_g'
  | 'parts.wheels.source'
  | 'parts.wheels.notes'
  | 'parts.wheels.measured'
  | 'parts.wheels.diameter_mm'
  | 'parts.wheels.width_mm'
  | 'parts.wheels.hardness_a'
  | 'parts.wheels.kind'
  | 'parts.wheels.core'
  | 'parts.wheels.in_set'
  | 'parts.risers.name'
  | 'parts.risers.maker'
  | 'parts.risers.price'
  | 'parts.risers.currency'
  | 'parts.risers.owned'
  | 'parts.risers.purchase.status'
  | 'parts.risers.purchase.order'
  | 'parts.risers.purchase.due_on'
  | 'parts.risers.purchase.arrived_on'
  | 'parts.risers.kit'
  | 'parts.risers.mass_g'
  | 'parts.risers.source'
  | 'parts.risers.notes'
  | 'parts.risers.measured'
  | 'parts.risers.height_mm'
  | 'parts.spreaders.name'
  | 'parts.spreaders.maker'
  | 'parts.spreaders.price'
  | 'parts.spreaders.currency'
  | 'parts.spreaders.owned'
  | 'parts.spreaders.purchase.status'
  | 'parts.spreaders.purchase.order'
  | 'parts.spreaders.purchase.due_on'
  | 'parts.spreaders.purchase.arrived_on'
  | 'parts.spreaders.kit'
  | 'parts.spreaders.mass_g'
  | 'parts.spreaders.source'
  | 'parts.spreaders.notes'
  | 'parts.spreaders.measured'
  | 'parts.spreaders.height_mm'
  | 'parts.spreaders.length_mm'
  | 'parts.spreaders.width_mm'
  | 'parts.motors.name'
  | 'parts.motors.maker'
  | 'parts.motors.price'
  | 'parts.motors.currency'
  | 'parts.motors.owned'
  | 'parts.motors.purchase.status'
  | 'parts.motors.purchase.order'
  | 'parts.motors.purchase.due_on'
  | 'parts.motors.purchase.arrived_on'
  | 'parts.motors.kit'
  | 'parts.motors.mass_g'
  | 'parts.motors.source'
  | 'parts.motors.notes'
  | 'parts.motors.measured'
  | 'parts.motors.count'
  | 'parts.motors.kind'
  | 'parts.motors.kv_rpm_per_v'
  | 'parts.motors.can_diameter_mm'
  | 'parts.motors.can_length_mm'
  | 'parts.motors.phase_resistance_mohm'
  | 'parts.motors.resistance_is'
  | 'parts.motors.pole_pairs'
  | 'parts.motors.no_load_current_a'
  | 'parts.motors.no_load_is'
  | 'parts.motors.max_current_a'
  | 'parts.motors.max_power_w'
  | 'parts.motors.shaft_mm'
  | 'parts.motors.sensored'
  | 'parts.motors.plug'
  | 'parts.drive.name'
  | 'parts.drive.maker'
  | 'parts.drive.price'
  | 'parts.drive.currency'
  | 'parts.drive.owned'
  | 'parts.drive.purchase.status'
  | 'parts.drive.purchase.order'
  | 'parts.drive.purchase.due_on'
  | 'parts.drive.purchase.arrived_on'
  | 'parts.drive.kit'
  | 'parts.drive.mass_g'
  | 'parts.drive.source'
  | 'parts.drive.notes'
  | 'parts.drive.measured'
  | 'parts.drive.kind'
  | 'parts.drive.motor_teeth'
  | 'parts.drive.wheel_teeth'
  | 'parts.drive.pitch_mm'
  | 'parts.drive.belt_width_mm'
  | 'parts.drive.belt_teeth'
  | 'parts.drive.idler'
  | 'parts.drive.mount_profile'
  | 'parts.drive.mount_angle_deg'
  | 'parts.drive.motor_place'
  | 'parts.drive.wheel_core'
  | 'parts.drive.pulley_fixing'
  | 'parts.drive.pulley_material'
  | 'parts.drive.bore_mm'
  | 'parts.drive.driven_wheels'
  | 'parts.mount.name'
  | 'parts.mount.maker'
  | 'parts.mount.price'
  | 'parts.mount.currency'
  | 'parts.mount.owned'
  | 'parts.mount.purchase.status'
  | 'parts.mount.purchase.order'
  | 'parts.mount.purchase.due_on'
  | 'parts.mount.purchase.arrived_on'
  | 'parts.mount.kit'
  | 'parts.mount.mass_g'
  | 'parts.mount.source'
  | 'parts.mount.notes'
  | 'parts.mount.measured'
  | 'parts.mount.profile'
  | 'parts.mount.angle_deg'
  | 'parts.mount.idler'
  | 'parts.mount.plate_mm'
  | 'parts.mount.slot_mm'
  | 'parts.covers.name'
  | 'parts.covers.maker'
  | 'parts.covers.price'
  | 'parts.covers.currency'
  | 'parts.covers.owned'
  | 'parts.covers.purchase.status'
  | 'parts.covers.purchase.order'
  | 'parts.covers.purchase.due_on'
  | 'parts.covers.purchase.arrived_on'
  | 'parts.covers.kit'
  | 'parts.covers.mass_g'
  | 'parts.covers.source'
  | 'parts.covers.notes'
  | 'parts.covers.measured'
  | 'parts.covers.over'
  | 'parts.covers.width_mm'
  | 'parts.pack.name'
  | 'parts.pack.maker'
  | 'parts.pack.price'
  | 'parts.pack.currency'
  | 'parts.pack.owned'
  | 'parts.pack.purchase.status'
  | 'parts.pack.purchase.order'
  | 'parts.pack.purchase.due_on'
  | 'parts.pack.purchase.arrived_on'
  | 'parts.pack.kit'
  | 'parts.pack.mass_g'
  | 'parts.pack.source'
  | 'parts.pack.notes'
  | 'parts.pack.measured'
  | 'parts.pack.series'
  | 'parts.pack.parallel'
  | 'parts.pack.layout'
  | 'parts.pack.cell.name'
  | 'parts.pack.cell.maker'
  | 'parts.pack.cell.price'
  | 'parts.pack.cell.currency'
  | 'parts.pack.cell.owned'
  | 'parts.pack.cell.purchase.status'
  | 'parts.pack.cell.purchase.order'
  | 'parts.pack.cell.purchase.due_on'
  | 'parts.pack.cell.purchase.arrived_on'
  | 'parts.pack.cell.kit'
  | 'parts.pack.cell.mass_g'
  | 'parts.pack.cell.source'
  | 'parts.pack.cell.notes'
  | 'parts.pack.cell.measured'
  | 'parts.pack.cell.chemistry'
  | 'parts.pack.cell.origin'
  | 'parts.pack.cell.size'
  | 'parts.pack.cell.capacity_ah'
  | 'parts.pack.cell.nominal_v'
  | 'parts.pack.cell.full_v'
  | 'parts.pack.cell.empty_v'
  | 'parts.pack.cell.max_discharge_a'
  | 'parts.pack.cell.max_charge_a'
  | 'parts.pack.cell.resistance_mohm'
  | 'parts.pack.cell.cycles_to_80_pct'
  | 'parts.pack.bricks'
  | 'parts.pack.weakest_brick_ah'
  | 'parts.pack.length_mm'
  | 'parts.pack.width_mm'
  | 'parts.pack.height_mm'
  | 'parts.pack.plug'
  | 'parts.pack.charge_plug'
  | 'parts.pack.health_pct'
  | 'parts.pack.place'
  | 'parts.pack.spares'
  | 'parts.pack.charge_to_v'
  | 'parts.pack.protection.name'
  | 'parts.pack.protection.maker'
  | 'parts.pack.protection.price'
  | 'parts.pack.protection.currency'
  | 'parts.pack.protection.owned'
  | 'parts.pack.protection.purchase.status'
  | 'parts.pack.protection.purchase.order'
  | 'parts.pack.protection.purchase.due_on'
  | 'parts.pack.protection.purchase.arrived_on'
  | 'parts.pack.protection.kit'
  | 'parts.pack.protection.mass_g'
  | 'parts.pack.protection.source'
  | 'parts.pack.protection.notes'
  | 'parts.pack.protection.measured'
  | 'parts.pack.protection.max_discharge_a'
  | 'parts.pack.protection.max_charge_a'
  | 'parts.pack.protection.in_drive_path'
  | 'parts.pack.protection.series'
  | 'parts.pack.protection.ports'
  | 'parts.pack.protection.balances'
  | 'parts.pack.protection.cut_off_v'
  | 'parts.pack.protection.ceiling_v'
  | 'parts.pack.protection.sensor'
  | 'parts.pack.protection.length_mm'
  | 'parts.pack.protection.width_mm'
  | 'parts.pack.protection.height_mm'
  | 'parts.controller.name'
  | 'parts.controller.maker'
  | 'parts.controller.price'
  | 'parts.controller.currency'
  | 'parts.controller.owned'
  | 'parts.controller.purchase.status'
  | 'parts.controller.purchase.order'
  | 'parts.controller.purchase.due_on'
  | 'parts.controller.purchase.arrived_on'
  | 'parts.controller.kit'
  | 'parts.controller.mass_g'
  | 'parts.controller.source'
  | 'parts.controller.notes'
  | 'parts.controller.measured'
  | 'parts.controller.units'
  | 'parts.controller.programmable'
  | 'parts.controller.max_v'
  | 'parts.controller.max_motor_current_a'
  | 'parts.controller.max_pack_current_a'
  | 'parts.controller.max_erpm'
  | 'parts.controller.fixed_cells'
  | 'parts.controller.motors'
  | 'parts.controller.plug'
  | 'parts.controller.motor_plug'
  | 'parts.controller.length_mm'
  | 'parts.controller.width_mm'
  | 'parts.controller.height_mm'
  | 'parts.charger.name'
  | 'parts.charger.maker'
  | 'parts.charger.price'
  | 'parts.charger.currency'
  | 'parts.charger.owned'
  | 'parts.charger.purchase.status'
  | 'parts.charger.purchase.order'
  | 'parts.charger.purchase.due_on'
  | 'parts.charger.purchase.arrived_on'
  | 'parts.charger.kit'
  | 'parts.charger.mass_g'
  | 'parts.charger.source'
  | 'parts.charger.notes'
  | 'parts.charger.measured'
  | 'parts.charger.v'
  | 'parts.charger.a'
  | 'parts.charger.balance'
  | 'parts.charger.plug'
  | 'parts.charge_port.name'
  | 'parts.charge_port.maker'
  | 'parts.charge_port.price'
  | 'parts.charge_port.currency'
  | 'parts.charge_port.owned'
  | 'parts.charge_port.purchase.status'
  | 'parts.charge_port.purchase.order'
  | 'parts.charge_port.purchase.due_on'
  | 'parts.charge_port.purchase.arrived_on'
  | 'parts.charge_port.kit'
  | 'parts.charge_port.mass_g'
  | 'parts.charge_port.source'
  | 'parts.charge_port.notes'
  | 'parts.charge_port.measured'
  | 'parts.charge_port.plug'
  | 'parts.charge_port.max_a'
  | 'parts.charge_port.cap'
  | 'parts.charge_port.hole_mm'
  | 'parts.remote.name'
  | 'parts.remote.maker'
  | 'parts.remote.price'
  | 'parts.remote.currency'
  | 'parts.remote.owned'
  | 'parts.remote.purchase.status'
  | 'parts.remote.purchase.order'
  | 'parts.remote.purchase.due_on'
  | 'parts.remote.purchase.arrived_on'
  | 'parts.remote.kit'
  | 'parts.remote.mass_g'
  | 'parts.remote.source'
  | 'parts.remote.notes'
  | 'parts.remote.measured'
  | 'parts.remote.link'
  | 'parts.remote.runtime_h'
  | 'parts.remote.charge_plug'
  | 'parts.switch.name'
  | 'parts.switch.maker'
  | 'parts.switch.price'
  | 'parts.switch.currency'
  | 'parts.switch.owned'
  | 'parts.switch.purchase.status'
  | 'parts.switch.purchase.order'
  | 'parts.switch.purchase.due_on'
  | 'parts.switch.purchase.arrived_on'
  | 'parts.switch.kit'
  | 'parts.switch.mass_g'
  | 'parts.switch.source'
  | 'parts.switch.notes'
  | 'parts.switch.measured'
  | 'parts.switch.kind'
  | 'parts.switch.max_v'
  | 'parts.switch.max_a'
  | 'parts.fuse.name'
  | 'parts.fuse.maker'
  | 'parts.fuse.price'
  | 'parts.fuse.currency'
  | 'parts.fuse.owned'
  | 'parts.fuse.purchase.status'
  | 'parts.fuse.purchase.order'
  | 'parts.fuse.purchase.due_on'
  | 'parts.fuse.purchase.arrived_on'
  | 'parts.fuse.kit'
  | 'parts.fuse.mass_g'
  | 'parts.fuse.source'
  | 'parts.fuse.notes'
  | 'parts.fuse.measured'
  | 'parts.fuse.a'
  | 'parts.wiring.name'
  | 'parts.wiring.maker'
  | 'parts.wiring.price'
  | 'parts.wiring.currency'
  | 'parts.wiring.owned'
  | 'parts.wiring.purchase.status'
  | 'parts.wiring.purchase.order'
  | 'parts.wiring.purchase.due_on'
  | 'parts.wiring.purchase.arrived_on'
  | 'parts.wiring.kit'
  | 'parts.wiring.mass_g'
  | 'parts.wiring.source'
  | 'parts.wiring.notes'
  | 'parts.wiring.measured'
  | 'parts.wiring.awg'
  | 'parts.wiring.length_mm'
  | 'parts.wiring.connector_max_a'
  | 'parts.enclosure.name'
  | 'parts.enclosure.maker'
  | 'parts.enclosure.price'
  | 'parts.enclosure.currency'
  | 'parts.enclosure.owned'
  | 'parts.enclosure.purchase.status'
  | 'parts.enclosure.purchase.order'
  | 'parts.enclosure.purchase.due_on'
  | 'parts.enclosure.purchase.arrived_on'
  | 'parts.enclosure.kit'
  | 'parts.enclosure.mass_g'
  | 'parts.enclosure.source'
  | 'parts.enclosure.notes'
  | 'parts.enclosure.measured'
  | 'parts.enclosure.length_mm'
  | 'parts.enclosure.width_mm'
  | 'parts.enclosure.depth_mm'
  | 'parts.enclosure.wall_mm'
  | 'parts.enclosure.seat'
  | 'parts.enclosure.place'
  | 'parts.enclosure.holds'
  | 'parts.enclosure.back_mm'
  | 'parts.enclosure.material'
  | 'parts.enclosure.flange_mm'
  | 'parts.enclosure.bed_length_mm'
  | 'parts.enclosure.bed_width_mm'
  | 'parts.second_enclosure.name'
  | 'parts.second_enclosure.maker'
  | 'parts.second_enclosure.price'
  | 'parts.second_enclosure.currency'
  | 'parts.second_enclosure.owned'
  | 'parts.second_enclosure.purchase.status'
  | 'parts.second_enclosure.purchase.order'
  | 'parts.second_enclosure.purchase.due_on'
  | 'parts.second_enclosure.purchase.arrived_on'
  | 'parts.second_enclosure.kit'
  | 'parts.second_enclosure.mass_g'
  | 'parts.second_enclosure.source'
  | 'parts.second_enclosure.notes'
  | 'parts.second_enclosure.measured'
  | 'parts.second_enclosure.length_mm'
  | 'parts.second_enclosure.width_mm'
  | 'parts.second_enclosure.depth_mm'
  | 'parts.second_enclosure.wall_mm'
  | 'parts.second_enclosure.seat'
  | 'parts.second_enclosure.place'
  | 'parts.second_enclosure.holds'
  | 'parts.second_enclosure.back_mm'
  | 'parts.second_enclosure.material'
  | 'parts.second_enclosure.flange_mm'
  | 'parts.second_enclosure.bed_length_mm'
  | 'parts.second_enclosure.bed_width_mm'
  | `parts.loads.${number}.name`
  | `parts.loads.${number}.maker`
  | `parts.loads.${number}.price`
  | `parts.loads.${number}.currency`
  | `parts.loads.${number}.owned`
  | `parts.loads.${number}.purchase.status`
  | `parts.loads.${number}.purchase.order`
  | `parts.loads.${number}.purchase.due_on`
  | `parts.loads.${number}.purchase.arrived_on`
  | `parts.loads.${number}.kit`
  | `parts.loads.${number}.mass_g`
  | `parts.loads.${number}.source`
  | `parts.loads.${number}.notes`
  | `parts.loads.${number}.measured`
  | `parts.loads.${number}.count`
  | `parts.loads.${number}.v`
  | `parts.loads.${number}.a`
  | `parts.loads.${number}.supply`
  | `parts.kits.${number}.name`
  | `parts.kits.${number}.maker`
  | `parts.kits.${number}.price`
  | `parts.kits.${number}.currency`
  | `parts.kits.${number}.owned`
  | `parts.kits.${number}.purchase.status`
  | `parts.kits.${number}.purchase.order`
  | `parts.kits.${number}.purchase.due_on`
  | `parts.kits.${number}.purchase.arrived_on`
  | `parts.kits.${number}.kit`
  | `parts.kits.${number}.mass_g`
  | `parts.kits.${number}.source`
  | `parts.kits.${number}.notes`
  | `parts.kits.${number}.measured`
  | `parts.extras.${number}.name`
  | `parts.extras.${number}.maker`
  | `parts.extras.${number}.price`
  | `parts.extras.${number}.currency`
  | `parts.extras.${number}.owned`
  | `parts.extras.${number}.purchase.status`
  | `parts.extras.${number}.purchase.order`
  | `parts.extras.${number}.purchase.due_on`
  | `parts.extras.${number}.purchase.arrived_on`
  | `parts.extras.${number}.kit`
  | `parts.extras.${number}.mass_g`
  | `parts.extras.${number}.source`
  | `parts.extras.${number}.notes`
  | `parts.extras.${number}.measured`
  | `parts.extras.${number}.count`
  | `parts.extras.${number}.fills`
  | 'settings.motor_current_a'
  | 'settings.motor_brake_a'
  | 'settings.pack_current_a'
  | 'settings.pack_regen_a'
  | 'settings.taper_start_v'
  | 'settings.taper_end_v'
  | 'settings.max_erpm'
  | 'settings.max_duty_pct'
  | 'settings.cells_in_series'
  | 'settings.profile'
  | 'settings.regen_ceiling_v'
  | 'settings.speed_cap_kmh'
  | 'settings.quiet_cap_kmh'
  | 'settings.motor_rollback_c'
  | 'settings.controller_rollback_c'
  | 'settings.sensor_mode'
  | 'settings.directions'
  | 'settings.pole_pairs'
  | 'settings.gear_ratio'
  | 'settings.wheel_diameter_mm'
  | 'settings.ride_mode'
  | 'settings.throttle_curve'
  | 'settings.ramp_s'
  | 'settings.dead_band_pct'
  | 'settings.fail_safe'
  | 'settings.remote_link'
  | 'settings.idle_off_min'
  | `settings_apart.${number}.motor_current_a`
  | `settings_apart.${number}.motor_brake_a`
  | `settings_apart.${number}.pack_current_a`
  | `settings_apart.${number}.pack_regen_a`
  | `settings_apart.${number}.taper_start_v`
  | `settings_apart.${number}.taper_end_v`
  | `settings_apart.${number}.max_erpm`
  | `settings_apart.${number}.max_duty_pct`
  | `settings_apart.${number}.cells_in_series`
  | `settings_apart.${number}.profile`
  | `settings_apart.${number}.regen_ceiling_v`
  | `settings_apart.${number}.speed_cap_kmh`
  | `settings_apart.${number}.quiet_cap_kmh`
  | `settings_apart.${number}.motor_rollback_c`
  | `settings_apart.${number}.controller_rollback_c`
  | `settings_apart.${number}.sensor_mode`
  | `settings_apart.${number}.directions`
  | `settings_apart.${number}.pole_pairs`
  | `settings_apart.${number}.gear_ratio`
  | `settings_apart.${number}.wheel_diameter_mm`
  | `settings_apart.${number}.ride_mode`
  | `settings_apart.${number}.throttle_curve`
  | `settings_apart.${number}.ramp_s`
  | `settings_apart.${number}.dead_band_pct`
  | `settings_apart.${number}.fail_safe`
  | `settings_apart.${number}.remote_link`
  | `settings_apart.${number}.idle_off_min`
  | 'assumptions.crr'
  | 'assumptions.cda_m2'
  | 'assumptions.drive_efficiency'
  | 'assumptions.controller_efficiency'
  | 'assumptions.air_density_kg_m3'
  | 'assumptions.wind_ms'
  | 'assumptions.idle_w'
  | 'assumptions.drag_n'
  | 'assumptions.path_resistance_mohm'
  | 'assumptions.grip'
  | 'weighed_kg'
  | `measured.${number}.path`
  | `measured.${number}.by`
  | `measured.${number}.day`
  | `set_aside.${number}.finding`
  | `set_aside.${number}.word`
  | `set_aside.${number}.said`
  | `set_aside.${number}.day`
  | `detected.${number}.resistance_mohm`
  | `detected.${number}.inductance_uh`
  | `detected.${number}.flux_linkage_mwb`
  | `detected.${number}.halls`
  | `detected.${number}.turned`
  | `detected.${number}.on`
  | `orders.${number}.name`
  | `orders.${number}.currency`
  | `orders.${number}.shipping`
  | `orders.${number}.duty_pct`
  | `orders.${number}.tax_pct`
  | `orders.${number}.ordered_on`
  | `orders.${number}.due_on`
  | `orders.${number}.notes`
  | `exchange.${number}.currency`
  | `exchange.${number}.rate`
  | `exchange.${number}.on`
  | `left_over.${number}.name`
  | `left_over.${number}.maker`
  | `left_over.${number}.price`
  | `left_over.${number}.currency`
  | `left_over.${number}.owned`
  | `left_over.${number}.purchase.status`
  | `left_over.${number}.purchase.order`
  | `left_over.${number}.purchase.due_on`
  | `left_over.${number}.purchase.arrived_on`
  | `left_over.${number}.kit`
  | `left_over.${number}.mass_g`
  | `left_over.${number}.source`
  | `left_over.${number}.notes`
  | `left_over.${number}.measured`
  | `left_over.${number}.kind`
  | `left_over.${number}.count`
  | 'not_needed'
  | 'ready_made.name'
  | 'ready_made.price'
  | 'ready_made.currency'
  | 'ready_made.shipping'
  | 'ready_made.duty_pct'
  | 'ready_made.tax_pct'
  | 'ready_made.top_speed_kmh'
  | 'ready_made.hill_grade_pct'
  | 'ready_made.range_km'
  | 'ready_made.mass_kg'
  | 'ready_made.pack_wh'
  | 'ready_made.warranty_months'
  | 'ready_made.promises'
  | 'ready_made.source'
  | 'existing.name'
  | 'existing.mass_kg'
  | 'existing.top_speed_kmh'
  | 'existing.range_km'
  | 'existing.note'
  | `packwork.cells.${number}.id`
  | `packwork.cells.${number}.capacity_ah`
  | `packwork.cells.${number}.found_v`
  | `packwork.cells.${number}.rested_v`
  | `packwork.cells.${number}.rested_days`
  | `packwork.cells.${number}.resistance_mohm`
  | `packwork.cells.${number}.mass_g`
  | `packwork.cells.${number}.size`
  | `packwork.cells.${number}.source`
  | `packwork.cells.${number}.chemistry`
  | `packwork.cells.${number}.group`
  | `packwork.cells.${number}.locked`
  | 'packwork.resistance_by'
  | 'packwork.plan.lie'
  | 'packwork.plan.layers'
  | 'packwork.plan.halves'
  | 'packwork.plan.order'
  | 'packwork.plan.strip'
  | 'packwork.plan.strip_width_mm'
  | 'packwork.plan.strip_thickness_mm'
  | 'packwork.plan.strip_layers'
  | 'packwork.plan.bridges'
  | 'packwork.plan.insulated'
  | 'packwork.taps.charge_pct'
  | 'packwork.taps.readings'
  | 'packwork.taps.day'
  | `packwork.charges.${number}.began`
  | `packwork.charges.${number}.brick`
  | `packwork.charges.${number}.looks.${number}.minute`
  | `packwork.charges.${number}.looks.${number}.groups_v`
  | `packwork.charges.${number}.looks.${number}.current_a`
  | `packwork.charges.${number}.looks.${number}.warmth`
  | `packwork.charges.${number}.ended`
  | `packwork.charges.${number}.note`
  | `trips.${number}.id`
  | `trips.${number}.name`
  | `trips.${number}.carried_kg`
  | `trips.${number}.start_pct`
  | `trips.${number}.swap_packs`
  | `trips.${number}.packs_beside`
  | `trips.${number}.days.${number}.on`
  | `trips.${number}.days.${number}.start`
  | `trips.${number}.days.${number}.weather.temperature_c`
  | `trips.${number}.days.${number}.weather.wind_ms`
  | `trips.${number}.days.${number}.weather.wind_from_deg`
  | `trips.${number}.days.${number}.weather.wet`
  | `trips.${number}.days.${number}.legs.${number}.name`
  | `trips.${number}.days.${number}.legs.${number}.distance_km`
  | `trips.${number}.days.${number}.legs.${number}.ascent_m`
  | `trips.${number}.days.${number}.legs.${number}.descent_m`
  | `trips.${number}.days.${number}.legs.${number}.bearing_deg`
  | `trips.${number}.days.${number}.legs.${number}.there_and_back`
  | `trips.${number}.days.${number}.legs.${number}.speed_kmh`
  | `trips.${number}.days.${number}.legs.${number}.surface`
  | `trips.${number}.days.${number}.legs.${number}.stops`
  | `trips.${number}.days.${number}.legs.${number}.profile.metres`
  | `trips.${number}.days.${number}.legs.${number}.profile.heights`
  | `trips.${number}.days.${number}.legs.${number}.profile.lat`
  | `trips.${number}.days.${number}.legs.${number}.profile.lon`
  | `trips.${number}.days.${number}.legs.${number}.profile.unknown_heights`
  | `trips.${number}.days.${number}.legs.${number}.then.kind`
  | `trips.${number}.days.${number}.legs.${number}.then.place`
  | `trips.${number}.days.${number}.legs.${number}.then.minutes`
  | `trips.${number}.days.${number}.legs.${number}.then.charger_a`
  | `trips.${number}.days.${number}.legs.${number}.then.charger_v`
  | `trips.${number}.days.${number}.legs.${number}.then.until_pct`
  | `trips.${number}.rides`
  | `trips.${number}.note`
  | `upkeep.done.${number}.id`
  | `upkeep.done.${number}.task`
  | `upkeep.done.${number}.on`
  | `upkeep.done.${number}.km`
  | `upkeep.done.${number}.found`
  | `upkeep.done.${number}.changed`
  | `upkeep.done.${number}.by`
  | `upkeep.done.${number}.spare`
  | `upkeep.done.${number}.count`
  | `upkeep.done.${number}.diameter_mm`
  | `upkeep.done.${number}.volts`
  | `upkeep.done.${number}.capacity_pct`
  | `upkeep.done.${number}.note`
  | `upkeep.spares.${number}.id`
  | `upkeep.spares.${number}.name`
  | `upkeep.spares.${number}.task`
  | `upkeep.spares.${number}.count`
  | `upkeep.spares.${number}.wanted`
  | `upkeep.spares.${number}.price`
  | `upkeep.spares.${number}.currency`
  | `upkeep.intervals.${number}.task`
  | `upkeep.intervals.${number}.km`
  | `upkeep.intervals.${number}.days`
  | `upkeep.intervals.${number}.never`
  | `upkeep.seasons.${number}.season`
  | `upkeep.seasons.${number}.on`
  | `upkeep.seasons.${number}.ticked`
  | `upkeep.seasons.${number}.closed`
  | 'upkeep.wheels_new_mm'
  | 'upkeep.km_before'
  | 'came_to.hours'
  | 'came_to.tools'
  | 'came_to.consumables'
  | 'came_to.kwh_price'
  | 'came_to.fare'
  | 'came_to.fare_km'
  | 'came_to.would_change'
  | 'came_to.to_say';

export const QUANTITIES: Record<string, QuantitySpec> = {
 "length": {
  "unit": "mm",
  "shown": {
   "mm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "in": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "metre": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "m": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "cm": {
    "factor": 10.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "inch": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "\"": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "ft": {
    "factor": 304.79999999999995,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "in": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "thickness": {
  "unit": "mm",
  "shown": {
   "mm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "in": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  },
  "typed": {
   "metre": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "m": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "cm": {
    "factor": 10.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "inch": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "\"": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "ft": {
    "factor": 304.79999999999995,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "in": {
    "factor": 25.4,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  }
 },
 "body_height": {
  "unit": "m",
  "shown": {
   "m": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "in": {
    "factor": 0.0254,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "metre": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "m": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "cm": {
    "factor": 0.01,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "inch": {
    "factor": 0.0254,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "\"": {
    "factor": 0.0254,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "ft": {
    "factor": 0.30479999999999996,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mm": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "in": {
    "factor": 0.0254,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "way": {
  "unit": "m",
  "shown": {
   "m": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "ft": {
    "factor": 0.30479999999999996,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "m": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "ft": {
    "factor": 0.30479999999999996,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "km": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mile": {
    "factor": 1609.344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "miles": {
    "factor": 1609.344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "yd": {
    "factor": 0.9144,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "distance": {
  "unit": "km",
  "shown": {
   "km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "mi": {
    "factor": 1.609344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "m": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "ft": {
    "factor": 0.0003048,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "mile": {
    "factor": 1.609344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "miles": {
    "factor": 1.609344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "yd": {
    "factor": 0.0009144,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mi": {
    "factor": 1.609344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "speed": {
  "unit": "km/h",
  "shown": {
   "km/h": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "mph": {
    "factor": 1.609344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "kmh": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "kph": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "m/s": {
    "factor": 3.6,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "kn": {
    "factor": 1.852,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "knots": {
    "factor": 1.852,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "km/h": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "mph": {
    "factor": 1.609344,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "wind": {
  "unit": "m/s",
  "shown": {
   "m/s": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "mph": {
    "factor": 0.44704,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "kmh": {
    "factor": 0.2777777777777778,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "km/h": {
    "factor": 0.2777777777777778,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "kn": {
    "factor": 0.5144444444444445,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "knots": {
    "factor": 0.5144444444444445,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "m/s": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "mph": {
    "factor": 0.44704,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "mass": {
  "unit": "g",
  "shown": {
   "g": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "oz": {
    "factor": 28.349523125000005,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "g": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "kg": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "lb": {
    "factor": 453.5923700000001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "lbs": {
    "factor": 453.5923700000001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "oz": {
    "factor": 28.349523125000005,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "st": {
    "factor": 6350.293180000001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "body_mass": {
  "unit": "kg",
  "shown": {
   "kg": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "lb": {
    "factor": 0.4535923700000001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "g": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "kg": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "lb": {
    "factor": 0.4535923700000001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "lbs": {
    "factor": 0.4535923700000001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "oz": {
    "factor": 0.028349523125000005,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "st": {
    "factor": 6.35029318,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "ascent": {
  "unit": "m/km",
  "shown": {
   "m/km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "ft/mi": {
    "factor": 0.18939393939393936,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "m/km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "ft/mi": {
    "factor": 0.18939393939393936,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "stops": {
  "unit": "a km",
  "shown": {
   "a km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "a mile": {
    "factor": 0.621371192237334,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "a km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "a mile": {
    "factor": 0.621371192237334,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "grade": {
  "unit": "%",
  "shown": {
   "%": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "°": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "tangent",
    "decimals": 1
   }
  },
  "typed": {
   "deg": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "tangent",
    "decimals": 2
   },
   "percent": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "%": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "°": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "tangent",
    "decimals": 1
   }
  }
 },
 "angle": {
  "unit": "°",
  "shown": {
   "°": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "deg": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "°": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "temperature": {
  "unit": "°C",
  "shown": {
   "°C": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "°F": {
    "factor": 0.5555555555555429,
    "offset": -17.777777777777743,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "c": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "f": {
    "factor": 0.5555555555555429,
    "offset": -17.777777777777743,
    "form": "linear",
    "decimals": 2
   },
   "k": {
    "factor": 1.0,
    "offset": -273.15,
    "form": "linear",
    "decimals": 2
   },
   "°C": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "°F": {
    "factor": 0.5555555555555429,
    "offset": -17.777777777777743,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "current": {
  "unit": "A",
  "shown": {
   "A": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "ma": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "amp": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "amps": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "A": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "voltage": {
  "unit": "V",
  "shown": {
   "V": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "mv": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "volts": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "V": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "cell_voltage": {
  "unit": "V",
  "shown": {
   "V": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "mv": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "volts": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "V": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "power": {
  "unit": "W",
  "shown": {
   "W": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "kw": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "hp": {
    "factor": 745.6998715822701,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "W": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "resistance": {
  "unit": "mΩ",
  "shown": {
   "mΩ": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "mohm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "ohm": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "Ω": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mΩ": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "inductance": {
  "unit": "µH",
  "shown": {
   "µH": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "uh": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mh": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "µH": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "flux_linkage": {
  "unit": "mWb",
  "shown": {
   "mWb": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  },
  "typed": {
   "wb": {
    "factor": 1000.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "mWb": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  }
 },
 "charge": {
  "unit": "Ah",
  "shown": {
   "Ah": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "mah": {
    "factor": 0.001,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "Ah": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "motor_constant": {
  "unit": "rpm/V",
  "shown": {
   "rpm/V": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "kv": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "rpm/V": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "area": {
  "unit": "m²",
  "shown": {
   "m²": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  },
  "typed": {
   "m2": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "ft²": {
    "factor": 0.09290303999999999,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "m²": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  }
 },
 "density": {
  "unit": "kg/m³",
  "shown": {
   "kg/m³": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  },
  "typed": {
   "kg/m3": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "kg/m³": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  }
 },
 "minutes": {
  "unit": "min",
  "shown": {
   "min": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "s": {
    "factor": 0.016666666666666666,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "h": {
    "factor": 60.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "minutes": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "min": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "seconds": {
  "unit": "s",
  "shown": {
   "s": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "min": {
    "factor": 60.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "minutes": {
    "factor": 60.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "h": {
    "factor": 3600.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "s": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "milliseconds": {
  "unit": "ms",
  "shown": {
   "ms": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "ms": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "hours": {
  "unit": "h",
  "shown": {
   "h": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "min": {
    "factor": 0.016666666666666666,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "h": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "force": {
  "unit": "N",
  "shown": {
   "N": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "lbf": {
    "factor": 4.4482216152605005,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "N": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   },
   "lbf": {
    "factor": 4.4482216152605005,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "torque": {
  "unit": "Nm",
  "shown": {
   "Nm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "Nm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "acceleration": {
  "unit": "m/s²",
  "shown": {
   "m/s²": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "m/s²": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "g": {
  "unit": "g",
  "shown": {
   "g": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "g": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "share": {
  "unit": "%",
  "shown": {
   "%": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "percent": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "%": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "electrical_speed": {
  "unit": "electrical rpm",
  "shown": {
   "electrical rpm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "rpm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "erpm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "electrical rpm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "turns": {
  "unit": "rpm",
  "shown": {
   "rpm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "rpm": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "hardness": {
  "unit": "A",
  "shown": {
   "A": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "a": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "A": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "count": {
  "unit": "",
  "shown": {
   "": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "thermal_resistance": {
  "unit": "K/W",
  "shown": {
   "K/W": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "K/W": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 },
 "heat_capacity": {
  "unit": "J/K",
  "shown": {
   "J/K": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "J/K": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "teeth": {
  "unit": "teeth",
  "shown": {
   "teeth": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "teeth": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "ratio": {
  "unit": "",
  "shown": {
   "": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  },
  "typed": {
   "": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 3
   }
  }
 },
 "wire": {
  "unit": "AWG",
  "shown": {
   "AWG": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "awg": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   },
   "AWG": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "energy": {
  "unit": "Wh",
  "shown": {
   "Wh": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  },
  "typed": {
   "Wh": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 0
   }
  }
 },
 "energy_per_distance": {
  "unit": "Wh/km",
  "shown": {
   "Wh/km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "Wh/mi": {
    "factor": 0.621371192237334,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  },
  "typed": {
   "Wh/km": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   },
   "Wh/mi": {
    "factor": 0.621371192237334,
    "offset": 0.0,
    "form": "linear",
    "decimals": 1
   }
  }
 },
 "money": {
  "unit": "",
  "shown": {
   "": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  },
  "typed": {
   "": {
    "factor": 1.0,
    "offset": 0.0,
    "form": "linear",
    "decimals": 2
   }
  }
 }
};

export const KINDS: Record<string, KindSpec> = {
 "deck": {
  "name": "Deck",
  "path": "parts.deck",
  "deciding": [
   "length_mm",
   "wheelbase_mm",
   "mount"
  ],
  "several": false
 },
 "trucks": {
  "name": "Trucks",
  "path": "parts.trucks",
  "deciding": [
   "hanger_mm",
   "profile"
  ],
  "several": false
 },
 "risers": {
  "name": "Risers",
  "path": "parts.risers",
  "deciding": [
   "height_mm"
  ],
  "several": false
 },
 "spreaders": {
  "name": "Spreader plates",
  "path": "parts.spreaders",
  "deciding": [
   "height_mm"
  ],
  "several": false
 },
 "wheels": {
  "name": "Wheels",
  "path": "parts.wheels",
  "deciding": [
   "diameter_mm",
   "hardness_a",
   "kind"
  ],
  "several": false
 },
 "motors": {
  "name": "Motor",
  "path": "parts.motors",
  "deciding": [
   "can_diameter_mm",
   "kv_rpm_per_v",
   "kind"
  ],
  "several": false
 },
 "drive": {
  "name": "Drive",
  "path": "parts.drive",
  "deciding": [
   "motor_teeth",
   "wheel_teeth",
   "kind"
  ],
  "several": false
 },
 "mount": {
  "name": "Motor mount",
  "path": "parts.mount",
  "deciding": [
   "profile",
   "angle_deg"
  ],
  "several": false
 },
 "covers": {
  "name": "Covers",
  "path": "parts.covers",
  "deciding": [
   "over"
  ],
  "several": false
 },
 "pack": {
  "name": "Pack",
  "path": "parts.pack",
  "deciding": [
   "series",
   "parallel"
  ],
  "several": false
 },
 "cell": {
  "name": "Cell",
  "path": "parts.pack.cell",
  "deciding": [
   "capacity_ah",
   "max_discharge_a",
   "chemistry"
  ],
  "several": false
 },
 "protection": {
  "name": "Protection board",
  "path": "parts.pack.protection",
  "deciding": [
   "series",
   "max_discharge_a"
  ],
  "several": false
 },
 "switch": {
  "name": "Switch",
  "path": "parts.switch",
  "deciding": [
   "kind",
   "max_a"
  ],
  "several": false
 },
 "fuse": {
  "name": "Fuse",
  "path": "parts.fuse",
  "deciding": [
   "a"
  ],
  "several": false
 },
 "wiring": {
  "name": "Wire",
  "path": "parts.wiring",
  "deciding": [
   "awg"
  ],
  "several": false
 },
 "charger": {
  "name": "Charger",
  "path": "parts.charger",
  "deciding": [
   "v",
   "a"
  ],
  "several": false
 },
 "charge_port": {
  "name": "Charge port",
  "path": "parts.charge_port",
  "deciding": [
   "plug",
   "max_a"
  ],
  "several": false
 },
 "controller": {
  "name": "Controller",
  "path": "parts.controller",
  "deciding": [
   "max_v",
   "max_motor_current_a"
  ],
  "several": false
 },
 "remote": {
  "name": "Remote",
  "path": "parts.remote",
  "deciding": [
   "link"
  ],
  "several": false
 },
 "enclosure": {
  "name": "Box",
  "path": "parts.enclosure",
  "deciding": [
   "length_mm",
   "depth_mm"
  ],
  "several": false
 },
 "second_enclosure": {
  "name": "Second box",
  "path": "parts.second_enclosure",
  "deciding": [
   "length_mm",
   "depth_mm"
  ],
  "several": false,
  "shelvedAs": "enclosure"
 },
 "load": {
  "name": "Lights and loads",
  "path": "parts.loads.*",
  "deciding": [
   "v",
   "a"
  ],
  "several": true
 },
 "kit": {
  "name": "Kit",
  "path": "parts.kits.*",
  "deciding": [],
  "several": true
 },
 "extra": {
  "name": "Extra",
  "path": "parts.extras.*",
  "deciding": [],
  "several": true
 }
};

export const QUESTIONS: QuestionSpec[] = [
 {
  "slug": "who",
  "asks": "Who rides?",
  "why": "As you step on, in clothes and shoes; the bag beside it. Hills and range hang on it as on no single part.",
  "fields": [
   "rider.mass_kg",
   "rider.carried_kg"
  ],
  "labels": {}
 },
 {
  "slug": "what",
  "asks": "What for, and on what ground?",
  "why": "Boardwalks and gravel take far more out of a pack than smooth asphalt.",
  "fields": [
   "brief.use",
   "brief.surface"
  ],
  "labels": {}
 },
 {
  "slug": "far",
  "asks": "How far on one charge?",
  "why": "There and back, without a socket on the way. The pack follows from it, and the price from the pack.",
  "fields": [
   "brief.range_km"
  ],
  "labels": {}
 },
 {
  "slug": "steep",
  "asks": "How steep is the worst hill?",
  "why": "5 % is hardly seen, 10 % gets a cyclist out of the saddle, 20 % is a street people talk about.",
  "fields": [
   "brief.hill_grade_pct",
   "brief.hill_length_m"
  ],
  "labels": {}
 },
 {
  "slug": "fast",
  "asks": "How fast?",
  "why": "What is allowed where you ride is yours to find out. 20 km/h keeps up with a bicycle.",
  "fields": [
   "brief.top_speed_kmh"
  ],
  "labels": {}
 },
 {
  "slug": "much",
  "asks": "How much may it cost, and weigh?",
  "why": "Without what is in the drawer already; and what you would carry up the stairs.",
  "fields": [
   "brief.budget",
   "brief.carry_mass_kg"
  ],
  "labels": {}
 }
];

export const OF_A_BOARD: QuestionSpec[] = [
 {
  "slug": "rides",
  "asks": "Who rides it?",
  "why": "As you step on, in clothes and shoes. What the board does hangs on it.",
  "fields": [
   "rider.mass_kg",
   "rider.carried_kg"
  ],
  "labels": {}
 },
 {
  "slug": "drives",
  "asks": "What drives it?",
  "why": "A motor in the hub is the wheel itself; with a belt it sits beside it. Leave the teeth out with hubs.",
  "fields": [
   "parts.motors.kind",
   "parts.motors.count",
   "parts.drive.motor_teeth",
   "parts.drive.wheel_teeth"
  ],
  "labels": {
   "parts.motors.kind": "Kind of motor",
   "parts.motors.count": "How many"
  }
 },
 {
  "slug": "stands",
  "asks": "What does it stand on?",
  "why": "Wheels measured across with a ruler, the deck from end to end.",
  "fields": [
   "parts.wheels.diameter_mm",
   "parts.deck.length_mm"
  ],
  "labels": {
   "parts.wheels.diameter_mm": "Wheels across",
   "parts.deck.length_mm": "Deck, end to end"
  }
 },
 {
  "slug": "feeds",
  "asks": "What feeds it?",
  "why": "The volts printed on its charger say how many cells are in series; the ampere hours stand on the pack.",
  "fields": [
   "parts.charger.v",
   "parts.charger.a",
   "parts.pack.series",
   "parts.pack.cell.capacity_ah"
  ],
  "labels": {
   "parts.charger.v": "On the charger",
   "parts.charger.a": "And its current",
   "parts.pack.cell.capacity_ah": "On the pack"
  }
 },
 {
  "slug": "does",
  "asks": "What does it do now?",
  "why": "As measured: flat out on a full pack, with you on it; on a scale; a whole ride. Each tightens the prediction.",
  "fields": [
   "existing.top_speed_kmh",
   "existing.mass_kg",
   "existing.range_km"
  ],
  "labels": {
   "existing.top_speed_kmh": "Flat out",
   "existing.mass_kg": "On a scale",
   "existing.range_km": "A whole ride"
  }
 },
 {
  "slug": "should",
  "asks": "What should it do?",
  "why": "What the change is for. Money is for what is new alone.",
  "fields": [
   "brief.range_km",
   "brief.hill_grade_pct",
   "brief.top_speed_kmh",
   "brief.budget"
  ],
  "labels": {}
 }
];

export const MORE = [
 "rider.height_m",
 "rider.stance",
 "brief.cruise_kmh",
 "brief.reserve_pct",
 "brief.stops_per_km",
 "brief.ascent_m_per_km",
 "brief.wind_ms",
 "brief.wind",
 "brief.temperature_c",
 "brief.wet",
 "brief.local_speed_limit_kmh",
 "brief.quiet_zone_kmh"
];

export const REPLACEABLE = [
 "pack",
 "charger",
 "controller",
 "motors",
 "wheels",
 "deck",
 "trucks",
 "remote",
 "enclosure"
];

export const NEW_BUILD: BuildFile = {
 "format": "sand-pocket/build",
 "version": 1,
 "name": "New board",
 "stage": "planned",
 "currency": "EUR",
 "rider": {
  "mass_kg": 75.0
 },
 "brief": {},
 "parts": {},
 "settings": {},
 "assumptions": {}
};

export const STATIONS: StationSpec[] = [
 {
  "id": "brief",
  "name": "Brief",
  "kinds": [],
  "sections": [
   {
    "field": "rider",
    "name": "Who rides"
   },
   {
    "field": "brief",
    "name": "What it is for"
   }
  ],
  "remark": "The hill on the way, the distance of a day, what you can lift and spend. Boards planned without it end up with a pack three times too big, or stranded.",
  "schools": [],
  "handles": []
 },
 {
  "id": "deck",
  "name": "Deck",
  "kinds": [
   "deck"
  ],
  "sections": [],
  "remark": "Long wheelbases are calm, short ones nimble and carried easily. A flat underside is where the box goes.",
  "schools": [],
  "handles": []
 },
 {
  "id": "trucks",
  "name": "Trucks",
  "kinds": [
   "trucks",
   "risers",
   "spreaders"
  ],
  "sections": [],
  "remark": "The hanger has to be one that the motor mount clamps; its width decides whether two motors fit side by side.",
  "schools": [],
  "handles": []
 },
 {
  "id": "wheels",
  "name": "Wheels",
  "kinds": [
   "wheels"
  ],
  "sections": [],
  "remark": "Bigger wheels roll over more and raise the gearing; the core has to be the one the wheel pulley keys into.",
  "schools": [],
  "handles": [
   {
    "path": "parts.wheels.diameter_mm",
    "low": 70.0,
    "high": 200.0,
    "step": 1.0
   }
  ]
 },
 {
  "id": "motor",
  "name": "Motor",
  "kinds": [
   "motors"
  ],
  "sections": [],
  "remark": "Low KV gives more torque for each ampere and less speed. One motor is lighter and cheaper; two give grip, brakes and hills.",
  "schools": [
   {
    "question": "One or two",
    "one": "One: lighter and cheaper.",
    "other": "Two: grip, brakes and hills."
   },
   {
    "question": "Belt or hub",
    "one": "Belt: torque, and any ratio; spares are carried.",
    "other": "Hub: clean, quiet, pushes freely."
   }
  ],
  "handles": [
   {
    "path": "parts.motors.kv_rpm_per_v",
    "name": "KV",
    "low": 60.0,
    "high": 400.0,
    "step": 5.0
   },
   {
    "path": "parts.motors.count",
    "low": 1.0,
    "high": 4.0,
    "step": 1.0
   },
   {
    "path": "settings.motor_current_a",
    "low": 5.0,
    "high": 120.0,
    "step": 1.0
   }
  ]
 },
 {
  "id": "drive",
  "name": "Drive",
  "kinds": [
   "drive",
   "mount",
   "covers"
  ],
  "sections": [],
  "remark": "Smaller motor pulleys climb better and spin slower; with few teeth in mesh a belt skips.",
  "schools": [],
  "handles": [
   {
    "path": "parts.drive.motor_teeth",
    "low": 9.0,
    "high": 30.0,
    "step": 1.0
   },
   {
    "path": "parts.drive.wheel_teeth",
    "low": 28.0,
    "high": 72.0,
    "step": 1.0
   },
   {
    "path": "parts.drive.belt_teeth",
    "low": 40.0,
    "high": 90.0,
    "step": 1.0
   }
  ]
 },
 {
  "id": "pack",
  "name": "Pack",
  "kinds": [
   "pack",
   "cell",
   "protection"
  ],
  "sections": [],
  "remark": "Bricks are cheap, strong and short-lived; welded cells last and charge with one plug. Charged to 4.1 V a cell instead of 4.2 V it about doubles its life.",
  "schools": [
   {
    "question": "Cells",
    "one": "Bricks: price, punch, a quick charge.",
    "other": "Welded block: life, one plug, safer when treated roughly."
   },
   {
    "question": "Size",
    "one": "As big as fits.",
    "other": "Sized to the daily ride and a reserve."
   },
   {
    "question": "Charge",
    "one": "4.2 V a cell: all the range.",
    "other": "4.1 V: about twice the life, and brakes from the start."
   },
   {
    "question": "Origin",
    "one": "New.",
    "other": "Salvaged: a third of the price, measured and matched."
   }
  ],
  "handles": [
   {
    "path": "parts.pack.series",
    "name": "In series",
    "low": 4.0,
    "high": 16.0,
    "step": 1.0
   },
   {
    "path": "parts.pack.parallel",
    "name": "In parallel",
    "low": 1.0,
    "high": 8.0,
    "step": 1.0
   },
   {
    "path": "settings.pack_current_a",
    "low": 5.0,
    "high": 120.0,
    "step": 1.0
   }
  ]
 },
 {
  "id": "power",
  "name": "Power path",
  "kinds": [
   "switch",
   "fuse",
   "wiring",
   "charger",
   "charge_port"
  ],
  "sections": [],
  "remark": "A loop plug costs little and you hold the key; an electronic switch is rated in volts and amperes. The charger must suit chemistry and cell count.",
  "schools": [
   {
    "question": "Protection",
    "one": "The board carries everything.",
    "other": "The board is for charging only, the controller cuts off."
   },
   {
    "question": "Switch",
    "one": "Loop plug: cheap, and you hold the key.",
    "other": "Electronic: comfort, rated in volts and amperes."
   }
  ],
  "handles": []
 },
 {
  "id": "controller",
  "name": "Controller",
  "kinds": [
   "controller"
  ],
  "sections": [
   {
    "field": "settings",
    "name": "Set in the controller"
   }
  ],
  "remark": "Its voltage has to stand the full pack, not the nominal one. Write down what you set: after a reset nobody remembers.",
  "schools": [
   {
    "question": "Kind",
    "one": "Boxed: cheap, fixed, works.",
    "other": "Programmable: recorded and tuned, starts smoothly."
   }
  ],
  "handles": [
   {
    "path": "settings.motor_current_a",
    "low": 5.0,
    "high": 120.0,
    "step": 1.0
   },
   {
    "path": "settings.motor_brake_a",
    "low": 0.0,
    "high": 120.0,
    "step": 1.0
   },
   {
    "path": "settings.pack_current_a",
    "low": 5.0,
    "high": 120.0,
    "step": 1.0
   },
   {
    "path": "settings.pack_regen_a",
    "low": 0.0,
    "high": 40.0,
    "step": 0.5
   }
  ]
 },
 {
  "id": "remote",
  "name": "Remote",
  "kinds": [
   "remote"
  ],
  "sections": [],
  "remark": "A lost link takes the brake away: being able to stop on foot is part of riding.",
  "schools": [],
  "handles": []
 },
 {
  "id": "box",
  "name": "Box",
  "kinds": [
   "enclosure",
   "second_enclosure"
  ],
  "sections": [],
  "remark": "Flush with the deck or it cracks after months; gasket foam follows the concave. Splash-proof is realistic, immersion is not.",
  "schools": [
   {
    "question": "How many",
    "one": "One: short wires, one lid.",
    "other": "Two: the deck bends freely, the pack comes off alone."
   },
   {
    "question": "Fixing",
    "one": "Hook tape and straps: off in a moment.",
    "other": "Screws, inserts, T-nuts: stays on."
   }
  ],
  "handles": []
 },
 {
  "id": "extras",
  "name": "Extras",
  "kinds": [
   "load",
   "kit",
   "extra"
  ],
  "sections": [
   {
    "field": "assumptions",
    "name": "Pinned assumptions"
   }
  ],
  "remark": "Lights and a horn, a kit that brings several parts at once; and bearings, bolts, threadlocker, spare belts: the small things that are forgotten and ordered last.",
  "schools": [],
  "handles": []
 }
];

export const STOREYS = [
 {
  "slug": "plan",
  "title": "Plan"
 },
 {
  "slug": "buy",
  "title": "Buy"
 },
 {
  "slug": "build",
  "title": "Build"
 },
 {
  "slug": "setup",
  "title": "Set up"
 },
 {
  "slug": "ride",
  "title": "Ride"
 }
] as const;

export const ROOMS = [
 {
  "slug": "stands",
  "title": "Where it stands",
  "storey": null
 },
 {
  "slug": "bench",
  "title": "Bench",
  "storey": "plan"
 },
 {
  "slug": "explorer",
  "title": "Explorer",
  "storey": "plan"
 },
 {
  "slug": "curves",
  "title": "Curves",
  "storey": "plan"
 },
 {
  "slug": "drawings",
  "title": "Drawings",
  "storey": "plan"
 },
 {
  "slug": "box",
  "title": "Box",
  "storey": "plan"
 },
 {
  "slug": "partslist",
  "title": "Parts list",
  "storey": "buy"
 },
 {
  "slug": "cells",
  "title": "Cells",
  "storey": "build"
 },
 {
  "slug": "pack",
  "title": "Pack",
  "storey": "build"
 },
 {
  "slug": "taps",
  "title": "Balance wires",
  "storey": "build"
 },
 {
  "slug": "wiring",
  "title": "Wiring",
  "storey": "build"
 },
 {
  "slug": "charging",
  "title": "Charging",
  "storey": "build"
 },
 {
  "slug": "assembly",
  "title": "Assembly",
  "storey": "build"
 },
 {
  "slug": "sheet",
  "title": "Controller sheet",
  "storey": "setup"
 },
 {
  "slug": "benchtest",
  "title": "Bench test",
  "storey": "setup"
 },
 {
  "slug": "firstride",
  "title": "First ride",
  "storey": "setup"
 },
 {
  "slug": "rides",
  "title": "Rides",
  "storey": "ride"
 },
 {
  "slug": "learnt",
  "title": "What they taught",
  "storey": "ride"
 },
 {
  "slug": "trips",
  "title": "Trips",
  "storey": "ride"
 },
 {
  "slug": "upkeep",
  "title": "Upkeep",
  "storey": "ride"
 },
 {
  "slug": "cameto",
  "title": "What it came to",
  "storey": "ride"
 },
 {
  "slug": "revisions",
  "title": "Revisions",
  "storey": null
 }
] as const;
