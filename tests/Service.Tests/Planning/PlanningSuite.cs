using System.Net;
using System.Net.Http.Json;
using YardRelay.Contracts;

namespace YardRelay.Service.Tests;

public sealed class SqlitePlanningTests(OnSqlite service) : PlanningSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresPlanningTests(OnPostgres service) : PlanningSuite(service), IClassFixture<OnPostgres>;

/// <summary>From a roster to a published plan and its repair, on every database.</summary>
public abstract class PlanningSuite(RunningService service) : Planned(service)
{
    private Task<HttpResponseMessage> PublishAsync(string refresh, int version) =>
        SendAsync($"api/refreshes/{refresh}/plan/publication", null, version);

    private async Task<PlansCompared> ComparedAsync(string refresh) =>
        (await Kit.GetFromJsonAsync<PlansCompared>($"api/refreshes/{refresh}/plans/compared", RunningService.Json))!;

    [Fact]
    public async Task A_draft_books_nothing_and_says_whom_it_would_bring_in()
    {
        var refresh = await Service.RefreshAsync();
        (await PlanAsync(refresh)).State.ShouldBe("none");
        var draft = await DraftAsync(refresh);
        (draft.State, draft.Number, draft.Appointments.Count, draft.LeftOut.Count).ShouldBe(("draft", 1, 3, 0));
        (await Service.SwapAsync($"{refresh}-0001")).Swap.Appointment.ShouldBeNull();
        (await ComparedAsync(refresh)).Changes.ShouldAllBe(c => c.Before == null && c.Words.Contains("comes in"));
    }

    [Fact]
    public async Task A_draft_is_published_once_and_only_as_it_was_seen()
    {
        var refresh = await Service.RefreshAsync();
        var draft = await DraftAsync(refresh);
        await RefusedAsync(await Kit.PostAsync($"api/refreshes/{refresh}/plan/publication", null), 428, "draft.version");
        await RefusedAsync(await PublishAsync(refresh, draft.Version + 1), 412, "changed-meanwhile");
        (await PublishAsync(refresh, draft.Version)).EnsureSuccessStatusCode();
        (await Service.SwapAsync($"{refresh}-0001")).Swap.Appointment!.TechnicianName.ShouldBe("Noor");
        await RefusedAsync(await PublishAsync(refresh, draft.Version), 409, "plan.no-draft");
    }

    [Fact]
    public async Task A_repaired_plan_moves_only_who_must_move_and_the_one_before_it_can_still_be_read()
    {
        var refresh = await Service.RefreshAsync();
        var published = await ReadAsync<PlanSeen>(await PublishAsync(refresh, (await DraftAsync(refresh)).Version));
        // Noor falls ill for the morning of her first visit.
        var first = published.Appointments[0];
        var day = first.Start.UtcDateTime.ToString("yyyy-MM-dd");
        await PutAsync<TechnicianSeen>(
                $"api/refreshes/{refresh}/technicians/noor",
                new TechnicianWanted(
                    "Noor",
                    ["North", "South"],
                    ["daily 08:00-12:00", "daily 13:00-17:00"],
                    null,
                    [$"{day} {first.Start:HH:mm}..{day} {first.Start.AddMinutes(15):HH:mm}"]));
        var repaired = await DraftAsync(refresh);
        (repaired.Number, repaired.BasedOn).ShouldBe((2, 1));
        (await ComparedAsync(refresh)).Changes.Where(c => c.Before!.Start != c.After!.Start).ShouldHaveSingleItem().Swap
            .ShouldBe(first.Swap);
        (await PublishAsync(refresh, repaired.Version)).EnsureSuccessStatusCode();
        (await Kit.GetFromJsonAsync<List<PlanListed>>($"api/refreshes/{refresh}/plans", RunningService.Json))!
            .Select(p => (p.Number, p.State))
            .ShouldBe([(2, "published"), (1, "past")]);
        (await PlanAsync(refresh, 1)).Appointments.ShouldContain(a => a.Swap == first.Swap && a.Start == first.Start);
    }

    private async Task<(string Refresh, PlanSeen Draft, AppointmentSeen One)> ToMoveAsync()
    {
        var refresh = await Service.RefreshAsync();
        var draft = await DraftAsync(refresh);
        return (refresh, draft, draft.Appointments.Single(a => a.Swap == $"{refresh}-0001"));
    }

    private Task<HttpResponseMessage> TryAsync(string refresh, MoveWanted wanted) =>
        Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan/draft/trials", wanted);

    private async Task<MoveSeen> TriedAsync(string refresh, MoveWanted wanted) =>
        await ReadAsync<MoveSeen>(await TryAsync(refresh, wanted));

    private Task<HttpResponseMessage> MoveAsync(string refresh, MoveWanted wanted, int version) =>
        SendAsync($"api/refreshes/{refresh}/plan/draft/moves", wanted, version);

    private async Task<MoveSeen> MovedAsync(string refresh, MoveWanted wanted, int version) =>
        await ReadAsync<MoveSeen>(await MoveAsync(refresh, wanted, version));

    private Task<HttpResponseMessage> UndoAsync(string refresh, int version) =>
        SendAsync($"api/refreshes/{refresh}/plan/draft/undo", null, version);

    [Fact]
    public async Task A_try_says_what_a_move_would_break_and_changes_nothing()
    {
        var (refresh, draft, one) = await ToMoveAsync();
        var other = draft.Appointments.First(a => a.Swap != one.Swap);
        (await TriedAsync(refresh, new(one.Swap, "noor", At(3, "06:00")))).Breaks.ShouldContain(b => b.Contains("not free"));
        (await TriedAsync(refresh, new(one.Swap, "noor", At(3, "12:00")))).Breaks.ShouldHaveSingleItem()
            .ShouldContain("Noor has no shift from");
        (await TriedAsync(refresh, new(one.Swap, "noor", other.Start))).Breaks
            .ShouldContain(b => b.StartsWith($"Noor is with {other.Person} from"));
        (await TriedAsync(refresh, new(one.Swap, "noor", At(3, "09:00")))).IsAllowed.ShouldBeTrue();
        (await PlanAsync(refresh)).Appointments.ShouldBe(draft.Appointments);
    }

    [Fact]
    public async Task A_visit_is_moved_where_it_breaks_nothing_at_the_cost_that_was_said()
    {
        var (refresh, draft, one) = await ToMoveAsync();
        var tried = await TriedAsync(refresh, new(one.Swap, "noor", At(3, "09:00")));
        var refused = await MovedAsync(refresh, new(one.Swap, "noor", At(3, "12:00")), draft.Version);
        (refused.IsAllowed, refused.Version).ShouldBe((false, draft.Version));
        var moved = await MovedAsync(refresh, new(one.Swap, "noor", At(3, "09:00")), draft.Version);
        (moved.IsAllowed, moved.CostAfter, moved.Version).ShouldBe((true, tried.CostAfter, draft.Version + 1));
    }

    [Fact]
    public async Task A_colleague_who_still_looks_at_the_old_draft_overwrites_nothing()
    {
        var (refresh, draft, one) = await ToMoveAsync();
        await MovedAsync(refresh, new(one.Swap, "noor", At(3, "09:00")), draft.Version);
        await RefusedAsync(
            await MoveAsync(refresh, new(one.Swap, "noor", At(4, "09:00")), draft.Version), 412, "changed-meanwhile");
        (await PlanAsync(refresh)).Appointments.Single(a => a.Swap == one.Swap).Start.ShouldBe(At(3, "09:00"));
    }

    [Fact]
    public async Task Every_move_can_be_taken_back()
    {
        var (refresh, draft, one) = await ToMoveAsync();
        var moved = await MovedAsync(refresh, new(one.Swap, "noor", At(3, "09:00")), draft.Version);
        var outside = await MovedAsync(refresh, new(one.Swap, null, null), moved.Version);
        (await PlanAsync(refresh)).LeftOut.ShouldHaveSingleItem().Because.ShouldContain("No rule stands in its way: Noor can do it on");
        var back = await ReadAsync<MoveSeen>(await UndoAsync(refresh, outside.Version));
        (await PlanAsync(refresh)).Appointments.Single(a => a.Swap == one.Swap).Start.ShouldBe(At(3, "09:00"));
        back = await ReadAsync<MoveSeen>(await UndoAsync(refresh, back.Version));
        (await PlanAsync(refresh)).Appointments.ShouldBe(draft.Appointments);
        await RefusedAsync(await UndoAsync(refresh, back.Version), 409, "draft.nothing-to-undo");
    }

    [Fact]
    public async Task Nobody_is_moved_who_is_not_there_and_to_nobody_either()
    {
        var (refresh, _, one) = await ToMoveAsync();
        await RefusedAsync(await TryAsync(refresh, new("nobody", "noor", At(3, "09:00"))), 404, "visit.not-found");
        await RefusedAsync(await TryAsync(refresh, new(one.Swap, "theo", At(3, "09:00"))), 404, "technician.not-found");
    }

    [Fact]
    public async Task Of_two_coordinators_who_publish_at_once_one_is_told_and_nothing_is_overwritten()
    {
        var refresh = await Service.RefreshAsync();
        var draft = await DraftAsync(refresh);
        var both = await Task.WhenAll(Enumerable.Range(0, 2).Select(_ =>
            SendAsync($"api/refreshes/{refresh}/plan/publication", null, draft.Version)));
        both.Select(b => b.StatusCode).ShouldBe([HttpStatusCode.OK, HttpStatusCode.Conflict], ignoreOrder: true);
        (await Kit.GetFromJsonAsync<List<PlanListed>>($"api/refreshes/{refresh}/plans", RunningService.Json))!.ShouldHaveSingleItem().State
            .ShouldBe("published");
    }

    private static string Week => $"{Day(0):yyyy-MM-dd}..{Day(6):yyyy-MM-dd}";

    /// <summary>A refresh with a draft in which all three have a time.</summary>
    private async Task<string> DraftedAsync()
    {
        var refresh = await Service.RefreshAsync();
        (await DraftAsync(refresh)).LeftOut.ShouldBeEmpty();
        return refresh;
    }

    private Task<HttpResponseMessage> AskAsync<T>(string refresh, string question, T body) =>
        Kit.PostAsJsonAsync($"api/refreshes/{refresh}/plan/{question}", body);

    private async Task<WhatIfSeen> IfAsync(string refresh, params string[] changes) =>
        await ReadAsync<WhatIfSeen>(await AskAsync(refresh, "what-if", new WhatIfWanted(changes, 0.3)));

    [Fact]
    public async Task Who_is_left_out_is_told_the_ways_in_and_a_way_that_is_taken_leads_in()
    {
        var refresh = await Service.RefreshAsync();
        var path = $"api/refreshes/{refresh}";
        // Sol is free for half an hour only.
        await Kit.PostAsJsonAsync($"{path}/swaps/edits", new SwapEdit([$"{refresh}-0002"], Free: [$"{Day(1):yyyy-MM-dd} 08:00-08:30"]));
        (await DraftAsync(refresh)).LeftOut.ShouldHaveSingleItem().Because.ShouldContain("Widen one window");
        var why = (await Kit.GetFromJsonAsync<WhyNotSeen>($"{path}/plan/why/{refresh}-0002", RunningService.Json))!;
        why.Ways.Count.ShouldBeGreaterThan(1);
        var window = why.Ways.Single(w => w.Words.Contains("another time"));
        await Kit.PostAsJsonAsync(
            $"{path}/swaps/edits",
            new SwapEdit([$"{refresh}-0002"], Free: [
                $"{window.Start:yyyy-MM-dd} {window.Start:HH:mm}-{window.Start!.Value.AddHours(3):HH:mm}"
            ]));
        (await DraftAsync(refresh)).LeftOut.ShouldBeEmpty();
    }

    [Fact]
    public async Task What_if_sets_the_plan_with_the_change_beside_the_plan_without()
    {
        var away = await IfAsync(await DraftedAsync(), $"away noor {Week}");
        (away.Before.LeftOut, away.After.LeftOut, away.LeftOut.Count).ShouldBe((0, 3, 3));
    }

    [Fact]
    public async Task Changes_are_taken_in_the_order_in_which_they_are_said()
    {
        var refresh = await DraftedAsync();
        (await IfAsync(refresh, $"away noor {Week}", "like noor")).After.LeftOut.ShouldBe(3, "the second one is as ill as the first");
        (await IfAsync(refresh, "like noor", $"away noor {Week}")).After.LeftOut.ShouldBe(0);
    }

    [Theory]
    [InlineData("away nobody 2026-11-25", "It has noor.")]
    [InlineData("rain", "Write 'away TECHNICIAN WHEN'")]
    public async Task A_change_that_says_nothing_is_refused_with_how_to_say_it(string change, string words) =>
        (await RefusedAsync(await AskAsync(await DraftedAsync(), "what-if", new WhatIfWanted([change])), 422, "what-if"))
            .ShouldContain(words);

    [Fact]
    public async Task The_outlook_has_every_day_and_a_chance()
    {
        var refresh = await DraftedAsync();
        var outlook = await ReadAsync<OutlookSeen>(await AskAsync(refresh, "outlook", new OutlookWanted(500)));
        (outlook.Days.Count, outlook.Days.Sum(d => d.Visits)).ShouldBe((17, 3));
        outlook.InTime.ShouldBeInRange(0.5, 1);
        await RefusedAsync(await AskAsync(refresh, "outlook", new OutlookWanted(NoShow: 2)), 422, "outlook.chance");
    }

    [Fact]
    public async Task Slack_is_shown_step_by_step_from_the_plan_as_it_is()
    {
        var refresh = await DraftedAsync();
        var outlook = await ReadAsync<OutlookSeen>(await AskAsync(refresh, "outlook", new OutlookWanted(500)));
        var slack = await ReadAsync<SlackSeen>(await AskAsync(refresh, "slack", new SlackWanted(new(500), 0.1)));
        slack.Steps.Select(s => s.Minutes).ShouldBe([0, 15, 30, 45, 60]);
        (slack.Steps[0].InTime, slack.Steps[0].Moved).ShouldBe((outlook.InTime, 0), "the first is the plan as it is, played as before");
        slack.Steps.ShouldAllBe(s => s.LeftOut == 0 && s.LastDay != null);
        await RefusedAsync(await AskAsync(refresh, "slack", new SlackWanted(new(500), 11)), 422, "slack.seconds");
    }

    [Fact]
    public async Task Questions_change_nothing()
    {
        var refresh = await DraftedAsync();
        await IfAsync(refresh, $"away noor {Week}");
        foreach (var asked in new[]
        {
            await AskAsync(refresh, "outlook", new OutlookWanted(100)),
            await AskAsync(refresh, "slack", new SlackWanted(new(100), 0.1)),
            await Kit.GetAsync($"api/refreshes/{refresh}/plan/why/{refresh}-0002")
        })
            ((int)asked.StatusCode).ShouldBeLessThan(500);
        (await PlanAsync(refresh)).Version.ShouldBe(1);
        (await Service.SwapAsync($"{refresh}-0001")).Swap.Appointment.ShouldBeNull();
    }
}
