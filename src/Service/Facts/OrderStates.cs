namespace YardRelay.Service.Facts;

/// <summary>How an order stands.</summary>
internal static class OrderStates
{
    public const string Waiting = "waiting";
    public const string UnderWay = "under-way";
    public const string Done = "done";
    public const string Failed = "failed";
    public const string Withdrawn = "withdrawn";
}
