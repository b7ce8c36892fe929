namespace YardRelay.Dav;

/// <summary>The medium below a folder that is served: what was written is brought there, and what it did not take is remembered.</summary>
internal sealed class DavMedium(TreeRoot root, string boot) : IDisposable
{
    private readonly Lock _gate = new();

    // Requests go on meanwhile.
    private readonly Lock _settling = new();

    // Linux tells an error to whoever had the file system open when it came: the last is opened before anything is written.
    private readonly List<OpenFolder> _witnesses = [];
    private NodeFacts _seen;
    private long _failures;

    /// <summary>Until when all that was written counts: another start of the computer, or one more failure, is another word.</summary>
    public string AsOf => FormattableString.Invariant($"{boot}/{Interlocked.Read(ref _failures)}");

    /// <summary>Has it open, as what the folder is now: another disk may be mounted there.</summary>
    public void Watch(OpenFolder top)
    {
        var facts = top.Facts();
        lock (_gate)
        {
            if (_witnesses.Count > 0 && facts.IsSameNodeAs(_seen)) return;
            if (root.TryOpen(out _) is not { } witness) return;
            _witnesses.Add(witness);
            _seen = facts;
        }
    }

    /// <summary>Brings all that was written onto the medium, and waits.</summary>
    /// <exception cref="FileTroubleException">It did not take all of it.</exception>
    public void Settle()
    {
        lock (_settling)
        {
            OpenFolder? witness;
            lock (_gate) witness = _witnesses.LastOrDefault();
            try
            {
                (witness ?? throw new FileTroubleException(new(Fault.GoneMeanwhile), "bring onto the disk")).Sync();
            }
            catch (FileTroubleException)
            {
                Interlocked.Increment(ref _failures);
                throw;
            }
        }
    }


    public void Dispose() => _witnesses.ForEach(w => w.Dispose());
}
