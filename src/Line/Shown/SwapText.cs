using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;

namespace YardRelay.Line.Shown;

/// <summary>One swap as text: head, line, account, checklist, snags, what is missing.</summary>
internal static class SwapText
{
    public static void Show(SwapSeen seen)
    {
        var s = seen.Swap;
        Tables.Say(
            $"{s.Name}  {s.Id}  {s.Kind.ToString().ToLowerInvariant()}  {s.Site}{(s.Room is null ? "" : ", " + s.Room)}  {s.OldTag} → "
                + $"{s.NewTag}");
        if (s.Appointment is { } at)
            Tables.Say($"{at.Start.OnClock():ddd d MMM HH:mm} to {at.End.OnClock():HH:mm} with {at.With}");
        Tables.Say($"{LineText.Of(s)}  {string.Join(" · ", s.Line.Where(l => l.At is not null).Select(l => l.Station))}");
        Tables.Say(LineText.Sign(s.Sign));
        if (seen.Rescue is { } rescue) Tables.Say($"Served by the parcel of {rescue.From} {rescue.Name}. {rescue.Words}");
        if (seen.HandingOver is { } to)
            Tables.Say(
                $"Received by {to.Name}{(to.Tag is null ? "" : $" at {to.Tag}")}: "
                    + $"{(to.AcceptedAt is { } when
                        ? $"accepted {when.OnClock():d MMM HH:mm}, written down by {to.AcceptedBy}"
                        : "not accepted yet")}");
        if (seen.RestoreSkip is { } skip)
            Tables.Say($"Nothing is restored, decided by {skip.By} {skip.At.OnClock():d MMM HH:mm}: {skip.Reason}");
        if (seen.Handover is { } passed)
            Tables.Say($"Handed over by {passed.From} to {passed.To} {passed.At.OnClock():d MMM HH:mm}: {passed.Note}");
        foreach (var detour in (seen.Detours ?? []).Take(5)) Tables.Say($"↷ {detour.At.OnClock():d MMM HH:mm} {detour.Words}");
        Account(seen);
        Tables.Show(
            ["", "Step", "Phase", "By", "Key"],
            seen.Checklist.Steps.Select(step =>
                new[]
                {
                    step.State switch { "done" => "✓", "not-applicable" => "–", "under-way" => "▸", _ => "○" },
                    step.Title,
                    step.Phase,
                    step.By is null
                        ? ""
                        : $"{step.By} {step.At?.OnClock():HH:mm}"
                            + $"{(step.Runs > 0 ? $", {step.Runs} {(step.Runs == 1 ? "run" : "runs")}" : "")}"
                            + $"{((step.Reason ?? step.Value) is { } said ? ": " + said : "")}",
                    step.Key
                }));
        foreach (var snag in seen.Snags.Where(n => n.End != "retried"))
            Tables.Say(
                $"{(snag.End == "open" ? "■ snag" : "– waived")} {snag.Id[..8]}  {Visible.Line(snag.Path)}: {Visible.Line(snag.Reason)}"
                    + $"{(snag.End == "waived" ? $" Waived by {snag.EndedBy}: {snag.EndReason}" : "")}");
        foreach (var follow in (seen.FollowUps ?? []).Where(f => f.DoneAt is null))
            Tables.Say($"▲ follow-up for {follow.OwnerName} until {follow.Due.OnClock():ddd d MMM HH:mm}: {follow.Words}");
        if (seen.OldComputer is { } old)
            Tables.Say(
                $"Old computer {old.Tag}: {old.Words}. "
                    + $"{(old.Wipe is { Result: "done" } wipe
                        ? $"Wiped {wipe.At.OnClock():d MMM}: {wipe.Method}."
                        : old.Missing.Count == 0
                        ? "It may be wiped."
                        : old.WipeFrom is { } from
                        ? $"Held until {from:d MMM}."
                        : "Not to be wiped yet.")}");
        foreach (var sign in seen.SignOffs)
            Tables.Say(sign.By is not null
                ? $"✓ signed off as {sign.Part.ToString().ToLowerInvariant()} by {sign.By}"
                : $"○ {sign.Part.ToString().ToLowerInvariant()} cannot sign yet: {string.Join(' ', sign.Missing)}"
                    .Replace(
                        "cannot sign yet: ", sign.Missing.Count == 0 ? "can sign now" : "cannot sign yet: ", StringComparison.Ordinal));
    }

    /// <summary>The account, blank instead of zero.</summary>
    public static void Account(SwapSeen seen)
    {
        static string[] Row(FolderAccount f) =>
            [
                f.Folder, Count(f.Old.Files), ByteText.Of(f.Old.Bytes), Count(f.LeftOut.Files), Count(f.Waived.Files + f.WaivedAtNew.Files),
                Count(f.Open.Files + f.OpenAtNew.Files), Count(f.InDepot.Files), f.OnNew is { } n ? Count(n.Files) : ""
            ];

        if (seen.Account.Count > 0)
            Tables.Show(
                ["Folder", "Old computer", "Size", "Left out", "Waived", "Open", "In the depot", "New computer"],
                seen.Account.Append(seen.Total).Select(Row), 1, 2, 3, 4, 5, 6, 7);
        if (seen.Total.GoneWords is { } gone) Tables.Say($"▲ {gone}");
    }

    private static string Count(long number) => number == 0 ? "" : $"{number:#,0}";
}
