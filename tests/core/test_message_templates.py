"""Templates are read from the sources: whatever a call can be given is found, and nothing is made up."""

import ast

from scripts.message_templates import MOST_VARIANTS, templates_in


def found(source: str) -> set[str]:
    return set(templates_in(ast.parse(source)))


def test_each_way_of_writing_a_template_is_found():
    assert found('message("It fits.")') == {"It fits."}
    assert found('message("a" if x else "b")') == {"a", "b"}
    assert found('message("Use " + ("one" if x else "two") + " belts", n=1)') == {"Use one belts", "Use two belts"}
    assert found('WORDS = {"a": "first", "b": "second"}\nmessage(WORDS[kind])') == {"first", "second"}
    assert found('why = "old"\nif x:\n    why = "new"\nmessage(why)') == {"old", "new"}
    assert found('step("id", "phase", "Title", "why", ["do", message("then {n}", n=1)], "right", wrong="not")') == {
        "Title",
        "why",
        "do",
        "then {n}",
        "right",
        "not",
    }


def test_what_is_put_together_at_run_time_is_not_guessed():
    assert found('message(f"Motor {n} is hot")') == set()
    assert found("message(other.text)") == set()
    many = " + ".join('("a" if x else "b")' for _ in range(MOST_VARIANTS))
    assert found(f"message({many})") == set()
    assert found('"""A module about nothing."""\ndef f():\n    """It does it."""') == set()


def test_whole_sentences_are_found_wherever_they_stand():
    assert found('yield "key", "Caps on both ends.", ids') == {"Caps on both ends."}
