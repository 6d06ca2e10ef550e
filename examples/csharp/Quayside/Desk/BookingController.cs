using Microsoft.AspNetCore.Mvc;
using Quayside.Booking;

namespace Quayside.Desk;

[ApiController]
[Route("bookings")]
public sealed class BookingController(BookingService service) : ControllerBase
{
    [HttpGet("{vessel}")]
    public IActionResult Show(string vessel) => Ok(service.Of(vessel));
}
