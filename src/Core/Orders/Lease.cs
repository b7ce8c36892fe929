namespace YardRelay.Core.Orders;

/// <summary>
/// An order in the hands of one hand: whose it is, until when without a word, which attempt, and which numbered batch comes next.
/// The one place where an order is taken, renewed and ended.
/// </summary>
/// <param name="Hand">Who has it.</param>
/// <param name="Attempt">From 1; an earlier one's reports are refused.</param>
/// <param name="NextBatch">Number of the batch that is expected, from 1.</param>
/// <param name="Until">Without a word until then it goes to whoever asks; null: it ended.</param>
public sealed record Lease(string Hand, int Attempt, int NextBatch, DateTimeOffset? Until)
{
    /// <summary>How long an order is left to whoever took it, without a word.</summary>
    public static readonly TimeSpan Length = TimeSpan.FromSeconds(60);

    /// <summary>Takes an order that waits, or whose lease is over, or that this hand had before it was started anew.</summary>
    /// <param name="before">Attempts so far.</param>
    public static Lease Take(string hand, int before, DateTimeOffset now) => new(hand, before + 1, 1, now + Length);

    /// <summary>A batch came and the work goes on.</summary>
    public Lease Renew(int batch, DateTimeOffset now) => this with { NextBatch = batch + 1, Until = now + Length };

    /// <summary>The last batch came.</summary>
    public Lease End(int batch) => this with { NextBatch = batch + 1, Until = null };

    /// <summary>Whether a batch came before, and changes nothing.</summary>
    public bool Repeats(int batch) => batch < NextBatch;

    /// <summary>
    /// Why a batch is refused; null: it is taken. The last batch may be repeated after the end, everything else of an order that ended or
    /// went on elsewhere is refused.
    /// </summary>
    public Problem? Against(string hand, int attempt, int batch)
    {
        if (Hand != hand || Attempt != attempt || (Until is null && !Repeats(batch))) return new LeaseLost();
        return batch > NextBatch ? new BatchMissing(NextBatch, batch) : null;
    }
}

/// <summary>The order is another's now, or nobody's.</summary>
public sealed record LeaseLost() : Problem(
    "order.lease-lost",
    "The lease on this order ran out and it went on elsewhere, or it ended. Stop working on it and ask for the next order.");

/// <summary>A batch came before the one that is expected.</summary>
/// <param name="Expected">Number of that one.</param>
/// <param name="Came">Number of the one that came.</param>
public sealed record BatchMissing(int Expected, int Came) : Problem(
    "order.batch-missing", $"Batch {Expected} is missing; {Came} came instead. Send {Expected} first.");
