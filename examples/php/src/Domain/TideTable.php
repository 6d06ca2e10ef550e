<?php

declare(strict_types=1);

namespace Quayside\Domain;

final class TideTable
{
    public function __construct(private readonly \PDO $db)
    {
    }

    public function highWater(string $day): float
    {
        $found = $this->db->prepare('select height from tide where day = ?');
        $found->execute([$day]);

        return (float) $found->fetchColumn();
    }
}
