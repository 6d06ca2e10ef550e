<?php

declare(strict_types=1);

namespace Quayside\Desk;

use Quayside\Booking\BookingService;

final class BookingScreen
{
    public function __construct(private readonly BookingService $service)
    {
    }

    public function handle(): void
    {
        $bookings = $this->service->of($_GET['vessel'] ?? '');
        require __DIR__ . '/../../templates/bookings.phtml';
    }
}
