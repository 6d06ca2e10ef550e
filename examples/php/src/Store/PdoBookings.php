<?php

declare(strict_types=1);

namespace Quayside\Store;

use PDO;
use Quayside\Domain\Booking;
use Quayside\Domain\Bookings;

final class PdoBookings implements Bookings
{
    public function __construct(private readonly PDO $db)
    {
    }

    public function add(Booking $booking): void
    {
        $this->db->prepare('insert into booking values (?, ?)')->execute([$booking->vessel, $booking->nights()]);
    }

    public function of(string $vessel): array
    {
        $found = $this->db->prepare('select * from booking where vessel = ?');
        $found->execute([$vessel]);

        return $found->fetchAll();
    }
}
