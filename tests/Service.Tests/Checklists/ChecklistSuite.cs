using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;

namespace YardRelay.Service.Tests;

public sealed class SqliteChecklistTests(OnSqlite service) : ChecklistSuite(service), IClassFixture<OnSqlite>;

public sealed class PostgresChecklistTests(OnPostgres service) : ChecklistSuite(service), IClassFixture<OnPostgres>;

/// <summary>Checklists: several technicians on one, each kind of step, newer versions, and the way from survey to sign-off.</summary>
public abstract class ChecklistSuite(RunningService service)
{
    private HttpClient Kit => service.Kit;

    [Fact]
    public async Task Two_technicians_on_one_checklist_never_overwrite_each_other_and_the_second_sees_what_the_first_did()
    {
        var refresh = await service.RefreshAsync();
        var id = $"{refresh}-0001";
        async Task<HttpResponseMessage> SetAsync(string step, string? version, StepChange change)
        {
            var request = new HttpRequestMessage(
                HttpMethod.Put, $"api/swaps/{id}/checklist/steps/{step}")
            { Content = JsonContent.Create(change) };
            if (version is not null) request.Headers.TryAddWithoutValidation("If-Match", $"\"{version}\"");
            return await Kit.SendAsync(request);
        }

        var version = (await service.SwapAsync(id)).Checklist.Version.ToString();
        ((int)(await SetAsync("told", null, new("ticked"))).StatusCode).ShouldBe(428);
        var both = await Task.WhenAll(SetAsync("told", version, new("ticked")), SetAsync("ready", version, new("ticked")));
        both.Count(b => b.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        var refused = await RunningService.ProblemAsync(both.Single(b => b.StatusCode != HttpStatusCode.OK), 412);
        refused["current"]!["steps"]!.AsArray().Count(s => (string?)s!["state"] == "done").ShouldBe(1);
        var now = (await service.SwapAsync(id)).Checklist.Version.ToString();
        (await RunningService.ProblemAsync(await SetAsync("staged", now, new("ticked")), 422))["code"]!.GetValue<string>()
            .ShouldBe("step.automatic");
        (await RunningService.ProblemAsync(await SetAsync("old-tag", now, new("scanned", "KB-3")), 422))["detail"]!.GetValue<string>()
            .ShouldContain("Wrong computer: KB-3");
        (await SetAsync("old-tag", now, new("scanned", "kb-1"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await RunningService.ProblemAsync(await SetAsync("backup", "3", new("not-applicable")), 412))["code"]!.GetValue<string>()
            .ShouldBe("changed-meanwhile");
    }

    /// <summary>A swap that is staged but for one snag, with its old computer's hand and the new one's.</summary>
    private async Task<(string Refresh, string Id, HttpClient Fresh)> SnaggedAsync()
    {
        var refresh = await service.RefreshAsync();
        var id = $"{refresh}-0001";
        (HttpClient old, HttpClient fresh) = (await service.HandAsync(refresh, "KB-1"), await service.HandAsync(refresh, "KB-2"));
        await service.DoAsync(id, "survey", old, RunningService.Result(10, 0));
        var snag = new Snag("Documents/pipe", SnagKind.Pipe, 10, "It is a named pipe.");
        await service.DoAsync(id, "first-trip", old, RunningService.Result(10, 9, snag));
        await service.DoAsync(id, "verify", old, RunningService.Result(0, 0));
        return (refresh, id, fresh);
    }

    /// <summary>The snag is waived, the restore done, the steps worked.</summary>
    private async Task<(string Refresh, string Id)> WorkedAsync()
    {
        var (refresh, id, fresh) = await SnaggedAsync();
        (await WaiveAsync(id, "a pipe has no content")).EnsureSuccessStatusCode();
        await service.DoAsync(id, "restore", fresh, RunningService.Result(9, 9));
        await service.WorkAsync(id, s => s.Phase != "hand-in");
        return (refresh, id);
    }

    private async Task<(string Refresh, string Id)> SignedAsync()
    {
        var (refresh, id) = await WorkedAsync();
        (await SignAsync(id, SignOffPart.Technician)).EnsureSuccessStatusCode();
        return (refresh, id);
    }

    private async Task<HttpResponseMessage> WaiveAsync(string id, string reason) => await Kit.PostAsJsonAsync(
        $"api/snags/{(await service.SwapAsync(id)).Snags[0].Id}/waiver", new WaiverWanted(reason));

    private Task<HttpResponseMessage> SignAsync(string id, SignOffPart part, string? facts = null) =>
        Kit.PostAsJsonAsync($"api/swaps/{id}/sign-offs", new SignOffWanted(part, facts), RunningService.Json);

    private Task<HttpResponseMessage> ReopenAsync(string id, string reason, HttpClient? by = null) =>
        (by ?? Kit).PostAsJsonAsync($"api/swaps/{id}/sign-offs/technician/reopening", new ReopeningWanted(reason));

    private static async Task<string> CodeAsync(HttpResponseMessage answer, int status) =>
        (await RunningService.ProblemAsync(answer, status))["code"]!.GetValue<string>();

    [Fact]
    public async Task Nothing_is_restored_before_anything_was_carried()
    {
        var refresh = await service.RefreshAsync();
        ((int)(await Kit.PostAsJsonAsync($"api/swaps/{refresh}-0001/orders", new OrderWanted("restore"))).StatusCode).ShouldBe(409);
    }

    [Fact]
    public async Task A_swap_is_staged_when_its_snag_is_waived_with_a_reason_and_not_before()
    {
        var (_, id, _) = await SnaggedAsync();
        var seen = await service.SwapAsync(id);
        (seen.Total.Unexplained, seen.Swap.Sign.Sign).ShouldBe((1, "wants"));
        seen.Swap.Line.Single(l => l.Station == Station.Staged).At.ShouldBeNull();
        (await CodeAsync(await WaiveAsync(id, " "), 422)).ShouldBe("snag.reason");
        (await WaiveAsync(id, "a pipe has no content")).EnsureSuccessStatusCode();
        (await service.SwapAsync(id)).Swap.Line.Single(l => l.Station == Station.Staged).At.ShouldNotBeNull();
    }

    [Fact]
    public async Task Nobody_signs_while_steps_are_open()
    {
        var (_, id, fresh) = await SnaggedAsync();
        (await WaiveAsync(id, "a pipe has no content")).EnsureSuccessStatusCode();
        await service.DoAsync(id, "restore", fresh, RunningService.Result(9, 9));
        (await RunningService.ProblemAsync(await SignAsync(id, SignOffPart.Technician), 409))["missing"]!.AsArray().Single()!
            .GetValue<string>().ShouldContain("steps are open");
    }

    [Fact]
    public async Task What_was_signed_is_a_paper_whose_digest_the_ledger_has()
    {
        var (refresh, id) = await SignedAsync();
        var paper = await Kit.GetStringAsync($"api/swaps/{id}/sign-offs/technician/paper");
        var read = SignOffPaper.Read(paper).Value;
        (read.Swap, read.Part, read.Sha256).ShouldBe((id, SignOffPart.Technician, (await service.SwapAsync(id)).SignOffs[0].Sha256));
        paper.ShouldContain("a pipe has no content");
        (await service.LedgerAsync(refresh)).ShouldContain(e =>
            e.Json.Contains("swap.signed-off", StringComparison.Ordinal) && e.Json.Contains(read.Sha256, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Opened_again_with_a_reason_what_was_read_before_is_not_signed_any_more()
    {
        var (_, id) = await SignedAsync();
        var before = (await service.SwapAsync(id)).SignOffs[0].Sha256;
        (await CodeAsync(await ReopenAsync(id, " "), 422)).ShouldBe("sign-off.reason");
        (await ReopenAsync(id, "wrong printer")).EnsureSuccessStatusCode();
        var read = (await service.SwapAsync(id)).SignOffs[0].Facts;
        (await service.ClaimAsync(id, "printer", new("answered", Value: "none needed"))).EnsureSuccessStatusCode();
        (await SignAsync(id, SignOffPart.Technician, read)).StatusCode.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await SignAsync(id, SignOffPart.Technician, (await service.SwapAsync(id)).SignOffs[0].Facts)).EnsureSuccessStatusCode();
        (await service.SwapAsync(id)).SignOffs[0].Sha256.ShouldNotBe(before);
    }

    [Fact]
    public async Task What_was_signed_is_not_changed()
    {
        var (_, id) = await SignedAsync();
        (await CodeAsync(await service.ClaimAsync(id, "told", new("reopened")), 409)).ShouldBe("step.frozen");
    }

    [Fact]
    public async Task With_the_coordinators_signature_every_station_is_reached_and_no_technician_opens_it_again()
    {
        var (_, id) = await SignedAsync();
        await service.WorkAsync(id, _ => true);
        (await SignAsync(id, SignOffPart.Coordinator)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await service.SwapAsync(id)).Swap.Line.Where(l => l.Station != Station.Booked).ShouldAllBe(l => l.At != null);
        (await ReopenAsync(id, "no", await service.AccountAsync("reopener", "technician", "North"))).StatusCode
            .ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task The_ledger_tells_a_swap_whole_and_names_nobody_and_no_file()
    {
        var (refresh, _) = await SignedAsync();
        var ledger = await service.LedgerAsync(refresh);
        LedgerChain.Check(ledger, null).ShouldBeEmpty();
        foreach (var name in new[] { "Ida", "Moreau", "pipe", "no content" })
            ledger.ShouldAllBe(e => !e.Json.Contains(name, StringComparison.Ordinal));
    }

    [Fact]
    public async Task Each_kind_of_swap_has_its_own_checklist_and_each_kind_of_step_its_claims()
    {
        var refresh = await service.RefreshAsync();
        var id = $"{refresh}-0001";
        var templates = (await Kit.GetFromJsonAsync<List<TemplateSeen>>($"api/refreshes/{refresh}/templates", RunningService.Json))!;
        foreach (var kind in Enum.GetValues<Core.Swaps.SwapKind>())
            templates.Count(t => t.Kinds.Contains(kind)).ShouldBe(1, kind.ToString());
        (await service.SwapAsync(id)).Checklist.Template.ShouldBe("Change of computer");

        async Task<string?> RefusedAsync(string step, StepChange change) =>
            (await RunningService.ProblemAsync(await service.ClaimAsync(id, step, change), 422))["code"]!.GetValue<string>();
        (await RefusedAsync("screens", new("answered", Value: "7"))).ShouldBe("step.bounds");
        (await RefusedAsync("restarted", new("ticked"))).ShouldBe("step.not-started");
        (await RefusedAsync("printer", new("ticked"))).ShouldBe("step.kind");
        (await service.SwapAsync(id)).Checklist.Steps.ShouldNotContain(s => s.Key == "screens-set");
        (await service.ClaimAsync(id, "screens", new("answered", Value: "2"))).EnsureSuccessStatusCode();
        (await service.SwapAsync(id)).Checklist.Steps.ShouldContain(s => s.Key == "screens-set", "a second screen brings its step");
        for (var run = 0; run < 2; run++) (await service.ClaimAsync(id, "cleared", new("ran"))).EnsureSuccessStatusCode();
        (await service.ClaimAsync(id, "cleared", new("ticked"))).EnsureSuccessStatusCode();
        var cleared = (await service.SwapAsync(id)).Checklist.Steps.Single(s => s.Key == "cleared");
        (cleared.State, cleared.Runs, cleared.StartedAt is not null).ShouldBe(("done", 3, true));
        LedgerChain.Check(await service.LedgerAsync(refresh), null).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_swap_moves_to_a_newer_checklist_only_when_it_is_told_to_and_keeps_what_still_fits()
    {
        var refresh = await service.RefreshAsync();
        var id = $"{refresh}-0001";
        (await service.ClaimAsync(id, "told", new("ticked"))).EnsureSuccessStatusCode();
        (await service.ClaimAsync(id, "printer", new("answered", Value: "prints"))).EnsureSuccessStatusCode();
        const string newer = """
            name: Change of computer
            kinds: [renew, second]
            steps:
              - { key: told, phase: before, title: Told in time, kind: confirmation, marks: told }
              - { key: printer, phase: swap, title: Printer, kind: choice, options: [prints, later] }
              - { key: fresh, phase: after, title: Fresh, kind: tick }
            """;
        var wrong = await (await Kit.PostAsJsonAsync(
            $"api/refreshes/{refresh}/template-preview",
            new TemplateDraft(newer + "\n  - { key: told, phase: soon, title: X, kind: tick }"),
            RunningService.Json)).Content
            .ReadFromJsonAsync<TemplatePreview>(RunningService.Json);
        wrong!.Faults.Count.ShouldBe(2);
        (await Kit.PostAsJsonAsync($"api/refreshes/{refresh}/templates", new { yaml = newer })).EnsureSuccessStatusCode();
        (await service.SwapAsync(id)).Checklist.TemplateVersion.ShouldBe(1);

        async Task<ChecklistMoved> MoveAsync(bool dryRun) =>
            (await (await Kit.PostAsJsonAsync(
                $"api/swaps/{id}/checklist/version",
                new ChecklistMove(DryRun: dryRun),
                RunningService.Json)).EnsureSuccessStatusCode().Content
                .ReadFromJsonAsync<ChecklistMoved>(RunningService.Json))!;
        var look = await MoveAsync(dryRun: true);
        look.Steps.Single(s => s.Key == "told").What.ShouldBe("reworded");
        look.Steps.Single(s => s.Key == "printer").ShouldBe(new("printer", "Printer", "asks-anew", true));
        look.Steps.Single(s => s.Key == "fresh").What.ShouldBe("added");
        (await service.SwapAsync(id)).Checklist.Steps.Single(s => s.Key == "printer").Value.ShouldBe("prints", "a look changes nothing");
        await MoveAsync(dryRun: false);
        var moved = (await service.SwapAsync(id)).Checklist;
        moved.Steps.Select(s => (s.Key, s.State)).ShouldBe([("told", "done"), ("printer", "open"), ("fresh", "open")]);
        moved.TemplateVersion.ShouldBe(2);
        await MoveAsync(dryRun: false);
        (await service.LedgerAsync(refresh))
            .Count(e => e.Json.Contains("checklist.moved", StringComparison.Ordinal))
            .ShouldBe(1, "told twice, moved once");
    }
}
