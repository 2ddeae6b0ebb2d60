"""The minutes to the time control, and more changes than a crew can rehearse."""

from mirkle.session.decision_book import BOTH
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.time_budget import MOST_CHANGES, plan_for, too_many


def test_what_fits_grows_with_the_time_and_shrinks_with_what_is_marked(stage: ReviewedPass) -> None:
    minutes = [plan_for(stage, 60.0 * m) for m in (0, 1, 5, 10, 25, 120)]
    fitting = [p.fitting for p in minutes]
    assert fitting[0] == 0
    assert fitting == sorted(fitting)
    assert minutes[-1].fitting == minutes[-1].waiting == len(stage.findings)
    assert str(minutes[-1].words) == f"120 min left: time for all {len(stage.findings)}"
    assert str(minutes[2].words) == f"5 min left: time for {minutes[2].fitting} of {minutes[2].waiting}"
    assert str(plan_for(stage, 20.0).words).startswith("under a minute left")
    before = plan_for(stage, 90.0)
    for finding in stage.findings[:3]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by=BOTH)
    after = plan_for(stage, 90.0)
    # Three are done, and the time to copy them is gone too.
    assert after.waiting == before.waiting - 3
    assert (before.fitting, after.fitting) == (1, 0)


def test_a_warning_comes_with_one_change_too_many(stage: ReviewedPass) -> None:
    marked = 0
    for finding in stage.findings:
        proposal = stage.book.proposal(finding)
        if proposal is None or marked > MOST_CHANGES:
            continue
        stage.choose(finding)
        stage.mark(proposal.text, by=BOTH)
        marked = len(stage.book.edition.changes)
        assert bool(too_many(stage)) == (marked > MOST_CHANGES)
    assert marked > MOST_CHANGES
    stage.undo()
    assert too_many(stage) is None
