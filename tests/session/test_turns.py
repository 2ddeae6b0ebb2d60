"""Commands that come while something long is being worked out."""

from mirkle.session.command_queue import Command, Turns


def made(log: list[str], name: str, *, fits: bool = True, key: str = "") -> Command:
    return Command(name, lambda: log.append(name), lambda: fits, key)


def test_what_comes_while_something_is_worked_out_comes_next_in_order() -> None:
    log: list[str] = []
    turns = Turns(lambda name: log.append(f"refused {name}"))
    assert turns.ask(made(log, "at once"))
    turns.begin()
    for command in (made(log, "first"), made(log, "gone", fits=False), made(log, "second")):
        assert not turns.ask(command)
    turns.ask(made(log, "belongs to it"), first=True)
    assert log == ["at once"]
    assert turns.waiting == ["belongs to it", "first", "gone", "second"]
    turns.end()
    assert log == ["at once", "belongs to it", "first", "refused gone", "second"]
    assert turns.waiting == []


def test_one_that_takes_long_itself_has_the_others_wait_again() -> None:
    log: list[str] = []
    turns = Turns(log.append)
    turns.begin()
    turns.ask(Command("long", turns.begin, lambda: True))
    turns.ask(made(log, "behind it"))
    turns.end()
    assert turns.busy
    assert log == []
    turns.end()
    assert log == ["behind it"]


def test_of_two_that_say_the_same_the_later_one_is_done() -> None:
    log: list[str] = []
    turns = Turns(log.append)
    turns.begin()
    turns.ask(made(log, "review", key="again"))
    turns.ask(made(log, "other"))
    turns.ask(made(log, "review again", key="again"))
    turns.end()
    assert log == ["other", "review again"]
