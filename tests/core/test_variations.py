"""Variations of a board share what does not read the difference, and are judged as if each were asked alone."""

import gc
import random
import weakref

import pytest

from boardmath.buildfile import read_build, write_build
from boardmath.buildfile.once import once_a_build, once_for_variations, varied
from boardmath.checks import findings
from boardmath.model.evaluation import Evaluation, evaluate
from boardmath.parts.cost import cost
from boardmath.parts.part_selection import with_part
from boardmath.prediction.outcomes import headline_of
from tests.core.boards import any_builds, spit_runner
from tests.core.test_proposals import LIBRARY

ODD = list(any_builds(24, seed=5))


def judged(build):
    """Everything that the model takes in of a build, its findings and cost."""
    found = Evaluation(build, 0)
    outcomes = headline_of(found).outcomes
    return (
        found.needs or found.resolved,
        [f.model_dump() for f in findings(build, outcomes, None)],
        cost(build).model_dump(),
    )


def alone(build):
    return judged(read_build(write_build(build)))


@pytest.mark.parametrize("kind", [k for k in LIBRARY if k not in ("kit", "extra", "load")])
def test_a_part_of_the_library_is_judged_as_alone(kind):
    base = spit_runner()
    tried = [with_part(base, kind, part) for part in LIBRARY[kind]]
    evaluate([base, *tried], 0)
    for build in tried:
        assert judged(build) == alone(build), build.parts


@pytest.mark.parametrize("number", range(len(ODD)))
def test_any_board_with_something_of_another_is_judged_as_alone(number):
    """What is missing in one and there in the other, whole parts and single figures."""
    base, chance = ODD[number], random.Random(number)
    tried = []
    for other in chance.sample(ODD, 8):
        slot = chance.choice([n for n in type(base.parts).model_fields if n != "extras"])
        part = getattr(other.parts, slot)
        own = getattr(base.parts, slot)
        if own is not None and part is not None and chance.random() < 0.5 and not isinstance(part, list):
            figure = chance.choice(list(type(part).model_fields))
            part = own.model_copy(update={figure: getattr(part, figure)})
        tried.append(base.model_copy(update={"parts": base.parts.model_copy(update={slot: part})}))
        tried.append(base.model_copy(update={"settings": other.settings, "brief": other.brief}))
    evaluate([base, *tried], 0)
    for build in tried:
        assert judged(build) == judged(build.model_copy())


def counting(decorate, read):
    asked = []

    @decorate
    def question(build):
        asked.append(build)
        return read(build)

    return question, asked


def test_what_is_not_read_is_not_asked_again():
    base = spit_runner()
    motor = base.parts.motors.model_copy(update={"kv_rpm_per_v": 200.0})
    other = base.model_copy(update={"parts": base.parts.model_copy(update={"motors": motor})})
    wheels, of_wheels = counting(once_for_variations, lambda b: b.parts.wheels.diameter_mm)
    kv, of_kv = counting(once_for_variations, lambda b: b.parts.motors.kv_rpm_per_v)
    whole, of_whole = counting(once_for_variations, lambda b: b.parts.model_dump())
    through, of_through = counting(once_for_variations, lambda b: kv(b) * wheels(b))
    varied(base, [other])
    assert wheels(other) == base.parts.wheels.diameter_mm
    assert len(of_wheels) == 1
    assert (kv(other), whole(other), through(other)) == (200.0, other.parts.model_dump(), 200.0 * wheels(base))
    assert [len(of) for of in (of_kv, of_whole, of_through)] == [2, 2, 2]


def test_variations_alike_in_what_is_read_share_an_answer():
    """Also where one of them reads further than the base did: who takes another turn is asked for itself."""
    base = spit_runner(parts__motors__can_diameter_mm=63.0, parts__motors__mass_g=700.0)

    def read(build):
        motors = build.parts.motors
        return motors.can_diameter_mm if motors.can_diameter_mm < 60.0 else (motors.can_diameter_mm, motors.mass_g)

    def with_motor(diameter, grams, kv):
        motor = base.parts.motors.model_copy(update={"can_diameter_mm": diameter, "mass_g": grams, "kv_rpm_per_v": kv})
        return base.model_copy(update={"parts": base.parts.model_copy(update={"motors": motor})})

    tried = [with_motor(d, m, kv) for d in (50.0, 63.0, 80.0) for m in (500.0, 700.0) for kv in (90.0, 140.0, 190.0)]
    question, asked = counting(once_for_variations, read)
    varied(base, tried)
    assert [question(b) for b in tried] == [read(b) for b in tried]
    # The base, which is as 63 mm and 700 g; 50 mm, which is not asked for its mass; 63 mm and 500 g; 80 mm of either mass.
    assert len(asked) == 5


def test_a_build_that_nobody_holds_is_forgotten_with_its_answers():
    question = once_a_build(lambda b: b)
    base = spit_runner()
    other = base.model_copy(update={"name": "another"})
    varied(base, [other])
    assert question(base) is base
    held = [weakref.ref(b) for b in (base, other)]
    del base, other
    gc.collect()
    assert [ref() for ref in held] == [None, None]
