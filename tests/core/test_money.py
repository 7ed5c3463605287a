"""Money: exact sums over currencies, orders with shipping, duty and tax, and what is spent, owned and left over."""

from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from boardmath.buildfile import BuildFileError, read_build, write_build
from boardmath.buildfile.drivetrain import Motors
from boardmath.buildfile.electrics import Extra
from boardmath.parts.cost import PLACED, cost, on_top, priced_parts, ready_made_price
from boardmath.parts.part_selection import with_part, with_parts
from boardmath.predictor import predict
from planner.parts_list.lines import parts_list
from tests.core.boards import bare, spit_runner

TODAY = date(2026, 11, 24)


def worked_example():
    """Two foreign orders, a pack from the drawer, wheels without a shop, and a motor that was bought too small."""
    return bare(
        deck={"price": 899, "currency": "SEK", "purchase": {"status": "arrived", "order": "Skerry Boards"}},
        trucks={"price": 640, "currency": "SEK", "purchase": {"order": "Skerry Boards"}},
        wheels={"price": 52, "diameter_mm": 90},
        motors={
            "count": 2,
            "kv_rpm_per_v": 170,
            "price": 79.95,
            "currency": "USD",
            "purchase": {"status": "ordered", "order": "Jetty Motors"},
        },
        controller={
            "units": 1,
            "price": 129,
            "currency": "USD",
            "purchase": {"status": "ordered", "order": "Jetty Motors"},
        },
        drive={"kind": "belt", "motor_teeth": 15, "wheel_teeth": 42},
        pack={"price": 310, "owned": True, "series": 10, "parallel": 3, "cell": {"capacity_ah": 3.0, "nominal_v": 3.6}},
    ).model_copy(
        update={
            "currency": "EUR",
            **{
                k: getattr(
                    read_build(
                        {
                            "format": "sand-pocket/build",
                            "version": 1,
                            "rider": {"mass_kg": 75},
                            "exchange": [{"currency": "USD", "rate": 0.9215}, {"currency": "SEK", "rate": 0.0871}],
                            "orders": [
                                {
                                    "name": "Jetty Motors",
                                    "currency": "USD",
                                    "shipping": 34.5,
                                    "duty_pct": 2.7,
                                    "tax_pct": 21,
                                },
                                {"name": "Skerry Boards", "currency": "SEK", "shipping": 120},
                            ],
                            "left_over": [
                                {"kind": "motors", "name": "Too small", "price": 45, "purchase": {"status": "arrived"}}
                            ],
                        }
                    ),
                    k,
                )
                for k in ("exchange", "orders", "left_over")
            },
        }
    )


def test_a_build_bought_in_three_currencies_by_hand():
    """Reckoned with pencil and paper.

    Jetty Motors: 2 x 79.95 USD = 147.35, 129 USD = 118.87, shipping 34.50 USD = 31.79, together 298.01; duty 2.7 % = 8.05;
    tax 21 % of 306.06 = 64.27; in all 370.33. Skerry Boards: 899 SEK = 78.30 (here, so its shipping of 10.45 is spent) and
    640 SEK = 55.74 still to order.
    """
    sums = cost(worked_example())
    jetty, skerry = sums.orders
    assert (jetty.goods, jetty.shipping, jetty.duty, jetty.tax, jetty.total) == (266.22, 31.79, 8.05, 64.27, 370.33)
    assert (skerry.goods, skerry.shipping, skerry.total, skerry.placed) == (134.04, 10.45, 144.49, 88.75)
    assert sums.spent == 504.08  # 370.33 + 88.75 + 45 for the motor that is left over
    assert sums.to_spend == 107.74  # 55.74 + 52
    assert sums.outlay == 611.82
    assert sums.owned == 310.0
    assert sums.total == 876.82  # what stands on the board: the outlay, the pack, not the left-over motor
    assert sums.unpriced == ["parts.drive"]


def test_a_currency_without_a_rate_is_named_and_left_out():
    build = worked_example().model_copy(update={"exchange": None})
    sums = cost(build)
    assert set(sums.other_currency) == {
        "parts.deck",
        "parts.trucks",
        "parts.motors",
        "parts.controller",
        "orders.0.shipping",
        "orders.1.shipping",
    }
    assert sums.outlay == 97.0  # the wheels and the left-over motor
    line = next(x for x in parts_list(build, TODAY).lines if x.kind == "deck")
    assert line.amount is None
    assert line.lacks is not None
    assert "no rate from SEK to EUR" in line.lacks.text


def test_free_shipping_needs_no_rate():
    build = read_build(
        {
            "format": "sand-pocket/build",
            "version": 1,
            "currency": "EUR",
            "rider": {"mass_kg": 75},
            "orders": [{"name": "A", "currency": "USD", "tax_pct": 20}],
            "parts": {"deck": {"price": 100, "purchase": {"order": "A"}}},
        }
    )
    assert cost(build).orders[0].total == 120.0
    assert cost(build).other_currency == []


@given(
    st.lists(
        st.tuples(
            st.sampled_from(["to_order", "ordered", "late", "arrived", "faulty", "replaced", "owned"]),
            st.integers(0, 10_000_000),
            st.sampled_from(["A", "B", None]),
            st.sampled_from(["EUR", "USD", None]),
        ),
        max_size=12,
    ),
    st.integers(0, 100_000),
    st.sampled_from([0.0, 2.7, 4.7]),
    st.sampled_from([0.0, 19.0, 21.0, 25.5]),
)
@settings(deadline=None, max_examples=150)
def test_whatever_is_bought_the_sums_add_up_to_the_cent(lines, shipping, duty, tax):
    """In cents: value = outlay + drawer; outlay = spent + to spend; every order = its parts and what is on top."""
    extras = [
        {
            "name": f"thing {i}",
            "price": cents / 100,
            **({"currency": c} if c else {}),
            **({"owned": True} if state == "owned" else {"purchase": {"status": state, **({"order": o} if o else {})}}),
        }
        for i, (state, cents, o, c) in enumerate(lines)
    ]
    for extra in extras:
        extra["price"] = min(extra["price"], 100_000.0)
    build = read_build(
        {
            "format": "sand-pocket/build",
            "version": 1,
            "currency": "EUR",
            "rider": {"mass_kg": 75},
            "parts": {"extras": extras},
            "orders": [{"name": "A", "shipping": shipping / 100, "duty_pct": duty, "tax_pct": tax}],
            "exchange": [{"currency": "USD", "rate": 0.9137}],
        }
    )
    sums = cost(build)

    def cents(value: float) -> int:
        assert Decimal(str(value)) == round(Decimal(str(value)), 2), "no fraction of a cent is left"
        return round(value * 100)

    assert cents(sums.outlay) == cents(sums.spent) + cents(sums.to_spend)
    assert cents(sums.total) == cents(sums.outlay) + cents(sums.owned)
    for order in sums.orders:
        assert cents(order.total) == sum(cents(v) for v in (order.goods, order.shipping, order.duty, order.tax))
        assert 0 <= cents(order.placed) <= cents(order.total)
    placed = any(p.state in PLACED for p in priced_parts(build))
    assert placed or sums.spent == 0.0


def test_duty_and_tax_are_on_what_the_directive_says():
    """Council Directive 2006/112/EC, articles 85 and 86: the taxable amount on import contains duty and transport."""
    duty, tax = on_top(Decimal("200.00"), Decimal("25.00"), 4.5, 20.0)
    assert duty == Decimal("10.13")  # 225 x 4.5 % = 10.125, half up
    assert tax == Decimal("47.03")  # 235.13 x 20 % = 47.026


def test_what_is_in_the_drawer_counts_to_the_value_and_not_to_the_purse():
    bought, owned = spit_runner(parts__pack__price=310), spit_runner(parts__pack__price=310, parts__pack__owned=True)
    assert cost(bought).total == cost(owned).total
    assert cost(bought).outlay - cost(owned).outlay == 310.0


def test_ordering_moves_money_from_to_spend_to_spent_and_changes_no_verdict():
    planned = spit_runner(parts__pack__price=310)
    ordered = spit_runner(parts__pack__price=310, parts__pack__purchase={"status": "ordered"})
    money = [next(p for p in predict(b).outcomes if p.name == "money") for b in (planned, ordered)]
    assert money[0].mid == money[1].mid
    assert (cost(ordered).spent, cost(ordered).to_spend) == (310.0, cost(planned).to_spend - 310.0)
    assert money[1].message is not None
    assert "310 spent" in money[1].message.text


def test_the_days_of_an_order_are_days_of_the_calendar():
    with pytest.raises(BuildFileError) as refused:
        spit_runner(orders=[{"name": "A", "due_on": "2026-02-30"}])
    assert refused.value.faults[0].field == "orders.0.due_on"
    assert "not a date" in refused.value.faults[0].reason
    with pytest.raises(BuildFileError, match="2026-05-31"):
        spit_runner(orders=[{"name": "A", "due_on": "soon"}])


# --- changing one's mind ----------------------------------------------------------------------------------------------


def test_a_part_that_was_bought_and_is_replaced_is_left_over():
    build = spit_runner(
        parts__motors__name="First",
        parts__motors__price=80,
        parts__motors__purchase={"status": "arrived", "order": "Jetty Motors"},
    )
    after = with_part(build, "motors", Motors(name="Second", price=95, kv_rpm_per_v=190))
    assert [(left.kind, left.name, left.price) for left in after.left_over or []] == [("motors", "First", 80)]
    assert cost(after).spent == cost(build).spent == 80.0
    assert cost(after).to_spend == cost(build).to_spend + 95.0
    assert cost(after).total == cost(build).total + 15.0, "the board is worth what stands on it"
    assert read_build(write_build(after)) == after


def test_what_was_only_planned_leaves_nothing_behind():
    build = spit_runner(parts__motors__name="First", parts__motors__price=80)
    assert with_part(build, "motors", Motors(name="Second")).left_over is None


def test_the_same_part_chosen_again_is_not_bought_twice():
    build = spit_runner(parts__motors__name="First", parts__motors__purchase={"status": "ordered"})
    again = with_part(build, "motors", Motors(name="First", kv_rpm_per_v=170))
    assert again.left_over is None
    assert again.parts.motors is not None
    assert again.parts.motors.purchase == build.parts.motors.purchase  # type: ignore[union-attr]


def test_extras_that_move_up_are_not_taken_for_gone():
    build = spit_runner(
        parts__extras=[
            {"name": "Foam"},
            {"name": "Belt", "price": 8, "purchase": {"status": "ordered"}},
            {"name": "Bolts", "price": 7, "purchase": {"status": "arrived"}},
        ]
    )
    extras = build.parts.extras or []
    without_foam = with_parts(build, build.parts.model_copy(update={"extras": extras[1:]}))
    assert without_foam.left_over is None
    without_bolts = with_parts(build, build.parts.model_copy(update={"extras": extras[:2]}))
    assert [(left.kind, left.name) for left in without_bolts.left_over or []] == [("extra", "Bolts")]


# --- the list ---------------------------------------------------------------------------------------------------------


def test_an_order_past_its_day_is_late_by_so_many_days():
    build = spit_runner(
        orders=[{"name": "Jetty Motors", "due_on": "2026-11-02"}],
        parts__motors__purchase={"status": "ordered", "order": "Jetty Motors"},
        parts__pack__purchase={"status": "ordered", "order": "Jetty Motors", "due_on": "2026-12-01"},
        parts__deck__purchase={"status": "arrived", "order": "Jetty Motors"},
    )
    states = {line.kind: (line.state, line.late_days) for line in parts_list(build, TODAY).lines}
    assert states["motors"] == ("late", 22)
    assert states["pack"] == ("ordered", None), "its own day is later than the order's"
    assert states["deck"] == ("arrived", None)


def test_cost_per_wh_and_per_km_are_what_they_say():
    build = worked_example()
    found = {(m.title, m.per): m.value for m in parts_list(build, TODAY).measures}
    assert found["Pack", "Wh"] == pytest.approx(310 / (10 * 3 * 3.6 * 3.0))
    assert found["Whole board", "Wh"] == pytest.approx(876.82 / 324)
    life = predict(build, bands=False).life
    assert life is not None
    assert found["Whole board", "km"] == pytest.approx(876.82 / life.km, rel=5e-3)
    assert life.pack_cost_per_km == pytest.approx(310 / life.km)


def test_a_ready_made_board_stands_against_the_same_brief():
    build = worked_example().model_copy(
        update={
            "ready_made": read_build(
                {
                    "format": "sand-pocket/build",
                    "version": 1,
                    "rider": {"mass_kg": 75},
                    "ready_made": {
                        "price": 900,
                        "currency": "USD",
                        "shipping": 60,
                        "duty_pct": 2.7,
                        "tax_pct": 21,
                        "range_km": 30,
                        "pack_wh": 150,
                        "warranty_months": 6,
                    },
                }
            ).ready_made
        }
    )
    # 829.35 + 55.29 = 884.64; duty 23.89; tax 21 % of 908.53 = 190.79; in all 1,099.32.
    assert ready_made_price(build) == 1099.32
    beside = parts_list(build, TODAY).beside
    assert beside is not None
    theirs = {p.name: p.mid for p in beside.outcomes}
    assert (theirs["range"], theirs["money"], theirs["speed"]) == (30.0, 1099.32, None)
    text = " ".join(r.text for r in beside.remarks)
    assert "487.5" in text  # 1,099.32 less 611.82
    assert "5 Wh/km" in text  # 150 Wh over 30 km
    assert "not chosen yet" in text, "an unfinished list is not set against a finished board and does not say so"


def beside(**ready_made):
    build = worked_example()
    given = {"format": "sand-pocket/build", "version": 2, "rider": {"mass_kg": 75}, "ready_made": ready_made}
    found = parts_list(build.model_copy(update={"ready_made": read_build(given).ready_made}), TODAY).beside
    assert found is not None
    return found


@pytest.mark.parametrize(
    ("ready_made", "words", "never"),
    [
        ({"price": 900, "currency": "JPY"}, "no exchange rate from JPY", "than for the ready-made board"),
        ({"price": 400, "currency": "EUR"}, "more than for the ready-made board", "warranty"),
        ({"price": 1400, "currency": "EUR", "warranty_months": 0}, "has no warranty", "months of warranty"),
        ({"price": 1400, "currency": "EUR", "warranty_months": 24}, "24 months of warranty", "has no warranty"),
        ({"range_km": 20}, "", "Its range means"),
        ({"pack_wh": 200}, "", "Its range means"),
    ],
)
def test_only_what_a_seller_says_is_set_beside(ready_made, words, never):
    text = " ".join(r.text for r in beside(**ready_made).remarks)
    assert words in text
    assert never not in text


# --- what is forgotten ------------------------------------------------------------------------------------------------


def asked_for(build, library=()) -> dict[str, Extra]:
    return {s.id: s.record for s in parts_list(build, TODAY, library).forgotten}


def test_small_parts_follow_from_the_choices():
    one = asked_for(spit_runner(parts__extras=None))
    assert {"bearings", "spacers", "truck-bolts", "mount-bolts", "threadlocker", "spare-belts", "heat-shrink"} <= set(
        one
    )
    assert "56 teeth" in (one["spare-belts"].name or "")
    assert "glands" in one, "it is ridden in the wet"
    assert "glands" not in asked_for(spit_runner(parts__extras=None, brief__wet=False))
    two = asked_for(spit_runner(parts__extras=None, parts__motors__count=2))
    assert (one["spare-belts"].count, two["spare-belts"].count) == (1, 2)
    hub = asked_for(spit_runner(parts__motors__kind="hub", parts__drive={"kind": "hub"}, parts__extras=None))
    assert not {"spare-belts", "mount-bolts"} & set(hub)
    assert asked_for(bare()) == {}


@pytest.mark.parametrize(
    ("thickness", "riser", "bolt"), [(11, 6, "M5 x 30"), (11, 0, "M5 x 25"), (14, 12, "M5 x 40"), (13, 20, "M5 x 45")]
)
def test_truck_bolts_reach_through_deck_risers_and_baseplate(thickness, riser, bolt):
    build = spit_runner(parts__deck__thickness_mm=thickness, parts__risers__height_mm=riser)
    assert bolt in (asked_for(build)["truck-bolts"].name or "")


def test_plugs_that_do_not_mate_ask_for_the_other_half():
    mated = spit_runner(parts__pack__plug="5 mm bullet", parts__controller__plug="5 mm Bullet")
    unlike = spit_runner(parts__pack__plug="5 mm bullet", parts__controller__plug="{4 mm} bullet")
    assert "connectors" not in asked_for(mated)
    assert "5 mm bullet" in (asked_for(unlike)["connectors"].name or "")


def test_cells_welded_by_oneself_ask_for_rings_and_strip():
    pack = {"series": 10, "parallel": 4, "cell": {"size": "18650", "price": 3.5}}
    assert asked_for(spit_runner(parts__pack=pack))["cell-rings"].count == 1
    bought = {**pack, "price": 240}
    assert "cell-rings" not in asked_for(spit_runner(parts__pack=bought))


def test_a_first_budget_has_what_is_worn_and_measured_with_and_a_riders_has_not():
    gear = {"helmet", "pads", "multimeter"}
    assert gear <= set(asked_for(spit_runner(stage="planned")))
    assert not gear & set(asked_for(spit_runner(stage="riding")))
    owned = spit_runner(stage="planned", parts__extras=[{"name": "My old helmet", "owned": True}])
    assert gear & set(asked_for(owned)) == {"pads", "multimeter"}


def test_what_is_on_the_list_or_not_needed_is_not_asked_for_again():
    build = spit_runner(
        parts__extras=[{"name": "Grip tape, coarse"}, {"name": "Odds", "fills": "threadlocker"}], not_needed=["spacers"]
    )
    assert not {"grip", "threadlocker", "spacers"} & set(asked_for(build))


def test_the_librarys_price_comes_with_the_size_that_the_board_needs():
    library = [Extra(name="Spare belt", price=8, currency="EUR", fills="spare-belts", maker="Somebody")]
    belt = asked_for(spit_runner(parts__motors__count=2), library)["spare-belts"]
    assert (belt.price, belt.count, belt.maker) == (8, 2, "Somebody")
    assert "56 teeth" in (belt.name or "")
