using Microsoft.EntityFrameworkCore;

namespace YardRelay.Records;

/// <summary>How the records are left: with nothing under way on a connection that is still open.</summary>
public sealed partial class YardDb
{
    /// <summary>Ends what is under way on the open connection; null: none is open, or its database needs no such care.</summary>
    internal Action? EndsWhatIsLeft { get; set; }

    /// <inheritdoc/>
    public override void Dispose()
    {
        EndOnce();
        base.Dispose();
    }

    /// <inheritdoc/>
    public override ValueTask DisposeAsync()
    {
        EndOnce();
        return base.DisposeAsync();
    }

    private void EndOnce()
    {
        EndsWhatIsLeft?.Invoke();
        EndsWhatIsLeft = null;
    }
}
