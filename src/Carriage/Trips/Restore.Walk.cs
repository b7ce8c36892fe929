using System.Threading.Channels;
using YardRelay.Carriage.Depots;
using YardRelay.Carriage.Names;
using YardRelay.Carriage.Pace;
using YardRelay.Carriage.Parcels;
using YardRelay.Carriage.Trees;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Files.Working;

namespace YardRelay.Carriage.Trips;

/// <content>The walk along the entries: makes or enters folders, and sets files on their way, several at once.</content>
public sealed partial class Restore
{
    private async Task WalkAsync(
        OpenFolder root, Workplace workplace, FileRestorer restorer, ChannelWriter<Step> steps, CancellationToken cancel)
    {
        using var slots = new Lanes(atOnce, progress, work);
        var running = new List<Task>();
        var frames = new Stack<Frame>();
        try
        {
            using (var ahead = await _parcel!.EntriesAsync(null, cancel))
                for (; ahead.Current is { } entry; await ahead.NextAsync(cancel))
                {
                    if (entry is { SameAs: { } first, GoneSince: null }) _wanted.Add(first);
                    _meetings.Look(entry);
                }
            for (var round = 0; round < _plan.Rounds; round++)
            {
                await RoundAsync(round);
                // All of this comes before what is needed first is said to be there.
                if (round == _plan.First.Count - 1) await steps.WriteAsync(new(null!, null!, [], null, null, false), cancel);
            }
            steps.Complete();
        }
        catch (Exception broke)
        {
            steps.Complete(broke);
        }
        finally
        {
            await Task.WhenAll(running).Quietly();
        }

        async Task RoundAsync(int round)
        {
            using var entries = await _parcel!.EntriesAsync(
                round > 0
                    ? null
                    : line => Damaged(new(
                        DamageKind.Wrong, ParcelPaths.Entries, $"This line is no entry, or points outside the parcel: {line}")),
                cancel);
            frames.Push(new(null, DepotPath.Root, [], new(root), false));
            for (; entries.Current is { } entry; await entries.NextAsync(cancel))
            {
                if (entry.GoneSince is not null) continue;
                LandingPlan.Found(_missing, entry.Shown);
                if (entry.Path.IsRoot)
                {
                    if (entry.Kind == EntryKind.Folder && workplace.RootWasEmpty && _plan.Only.Count == 0) _rootEntry = entry;
                    continue;
                }
                if (!_plan.IsIn(round, entry.Shown, entry.Kind == EntryKind.Folder)) continue;
                while (!entry.Path.IsIn(frames.Peek().Stored)) await EndAsync();
                // A parcel made by hand may name files without their folders.
                while (frames.Peek().Stored != entry.Path.Parent)
                {
                    var top = frames.Peek().Stored;
                    var next = entry.Path.Parent.Below(top).Text.Split('/')[0];
                    if (!await EnterAsync(null, top / next, PartOf(entry, top))) break;
                }
                if (frames.Peek().Stored != entry.Path.Parent)
                {
                    if (entry.Kind != EntryKind.Folder)
                        await steps.WriteAsync(
                            new(
                                entry,
                                frames.Peek(),
                                LastPart(entry),
                                null,
                                new(Landed.Open, [], new(entry.Shown, SnagKind.NotRestored, entry.Bytes, "Its folder could not be made.")),
                                false),
                            cancel);
                    continue;
                }
                var frame = frames.Peek();
                var name = LastPart(entry);
                switch (entry.Kind)
                {
                    case EntryKind.Folder:
                        await EnterAsync(entry, entry.Path, name);
                        break;
                    case not EntryKind.Folder when _meetings.Meets(entry):
                        await steps.WriteAsync(new(entry, frame, name, null, null, false), cancel);
                        break;
                    case EntryKind.Link when entry.SameAs is null:
                        await steps.WriteAsync(
                            new(
                                entry,
                                frame,
                                name,
                                null,
                                restorer.MakeLink(entry, frame.Folder.Opened, name, _plan.ClashOf(entry.Shown)),
                                false),
                            cancel);
                        break;
                    // Of a file with several names one is carried over and the others are linked to it: in this round or another.
                    case EntryKind.Link:
                    case EntryKind.File when entry.SameAs is not null || (_plan.Rounds > 1 && _wanted.Contains(entry.Path.Text)):
                        await steps.WriteAsync(new(entry, frame, name, null, null, false), cancel);
                        break;
                    default:
                        await slots.WaitAsync(cancel);
                        var restoring = work.Start(async () =>
                        {
                            try
                            {
                                return await restorer.RestoreAsync(entry, frame.Folder.Opened, name, _plan.ClashOf(entry.Shown), cancel);
                            }
                            finally
                            {
                                slots.Release();
                            }
                        });
                        running.RemoveAll(t => t.IsCompleted);
                        running.Add(restoring);
                        await steps.WriteAsync(new(entry, frame, name, restoring, null, false), cancel);
                        break;
                }
            }
            while (frames.Count > 1) await EndAsync();
            frames.Clear();
        }

        ValueTask EndAsync()
        {
            var frame = frames.Pop();
            return steps.WriteAsync(new(null!, frame, [], null, null, true), cancel);
        }

        // Makes or enters a folder; where something else stands, one beside it.
        async Task<bool> EnterAsync(Entry? entry, DepotPath stored, byte[] name)
        {
            var parent = frames.Peek();
            SharedFolder? elsewhere = null;
            var move = _plan.MoveOf(entry?.Shown ?? PercentText.Encode(System.Text.Encoding.UTF8.GetBytes(stored.Text)));
            if (move is not null && !IsReached(move, root, ref parent, ref name, out elsewhere, out var why))
            {
                await FailAsync(why);
                return false;
            }
            var meets = entry is not null && _meetings.Meets(entry);
            for (var number = 0; number < 1000; number++)
            {
                var target = number == 0 ? name : BesideName.Of(name, number);
                var raw = Meetings.Join(parent.Raw, target);
                var stands = parent.Folder.Opened.TryFacts(target, out _);
                if (stands is not null && !MayEnter(parent.Folder.Opened, target, stands.Value, meets && !workplace.WasMade(raw))) continue;
                var ours = workplace.WasMade(raw) || (stands is { } there && workplace.GoesOn && LooksMade(entry, there));
                if (stands is null)
                {
                    workplace.Note(raw);
                    ours = parent.Folder.Opened.TryMakeFolder(target, NotDressed, out var trouble);
                    if (!ours && trouble.Fault != Fault.Taken)
                    {
                        await FailAsync(trouble.Said("The folder could not be made"));
                        return false;
                    }
                }
                var open = parent.Folder.Opened.TryOpenFolder(target, FolderUse.List, out var openErrno);
                if (open is null)
                {
                    await FailAsync(openErrno.Said("The folder could not be opened"));
                    return false;
                }
                if (stands is null && ours) Giving.Give(open, parent.Folder.Opened);
                if (number > 0)
                    lock (_beside)
                        _beside.Add(new(
                            PercentText.Encode(raw.AsSpan(0, raw.Length - target.Length)) + PercentText.Encode(name) + "/",
                            PercentText.Encode(target)));
                if (ours && entry is null) ours = false;
                if (meets) _meetings.Entered(raw);
                frames.Push(new(entry, stored, raw, new(open), ours, elsewhere));
                if (entry is not null) lock (_folders) _folders.Of(entry.Shown + "/");
                return true;
            }
            await FailAsync("every name beside it is taken");
            return false;

            ValueTask FailAsync(string why)
            {
                lock (_snags) _snags.Add(new(stored.Text + "/", SnagKind.NotRestored, 0, why + ".", CountsAsFile: false));
                return ValueTask.CompletedTask;
            }
        }
    }

    private static bool IsReached(
        Landing move, OpenFolder root, ref Frame parent, ref byte[] name, out SharedFolder? elsewhere, out string why)
    {
        var to = PercentText.TryDecode(move.To) ?? [];
        var slash = Array.LastIndexOf(to, (byte)'/');
        var above = slash < 0 ? [] : to[..slash];
        elsewhere = LandingPlaces.Reach(root, above, out why);
        if (elsewhere is null) return false;
        (parent, name) = (parent with { Folder = elsewhere, Raw = above }, to[(slash + 1)..]);
        return true;
    }

    // Something else may stand there; and two folders of the parcel that are one to this disk would become one.
    private static bool MayEnter(OpenFolder parent, byte[] name, NodeFacts stands, bool meets) =>
        stands.Kind == NodeKind.Folder && (!meets || Meetings.IsListed(parent, name));

    // A folder that we made and not dressed yet, which tells that it is ours also where a power cut took the note of it.
    private const ushort NotDressed = 0x3C0;

    private static bool LooksMade(Entry? entry, NodeFacts stands) =>
        stands.Mode == NotDressed || (entry is not null && stands.Mode == entry.Mode && stands.Modified == entry.Modified);

    // The true name of the folder that comes next below one on the way to an entry.
    private static byte[] PartOf(Entry entry, DepotPath top)
    {
        var raw = entry.RawPath.AsSpan();
        for (var above = top.IsRoot ? 0 : top.Text.Count('/') + 1; above > 0; above--) raw = raw[(raw.IndexOf((byte)'/') + 1)..];
        return raw[..raw.IndexOf((byte)'/')].ToArray();
    }

    private static byte[] LastPart(Entry entry)
    {
        var raw = entry.RawPath;
        return raw[(Array.LastIndexOf(raw, (byte)'/') + 1)..];
    }
}
